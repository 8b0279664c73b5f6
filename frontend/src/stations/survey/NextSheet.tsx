import { Link } from "react-router";
import { useJobId } from "../../api/job";
import { useEveryNumberTried } from "../../api/runs";
import { useMeasureNext } from "../../api/survey";
import type { MeasureNextView } from "../../api/types";

import { Button } from "../../parts/Button";
import { RunBar } from "../../parts/RunBar";
import { Empty, Failed, Waiting } from "../../parts/States";
import { sheetOf } from "../../parts/sheetOf";
import { usePick } from "../../parts/units";
import { VerdictMark } from "../../parts/Verdict";

/** Which one measurement would settle the most: gravest first. */
export function NextSheet() {
  const tried = useEveryNumberTried();
  const { run, ready, start } = tried;
  const next = useMeasureNext(ready);
  if (run?.state === "cancelled" || run?.state === "failed" || tried.trouble)
    return (
      <div className="p-6">
        <p className="mb-2 font-semibold">{tried.trouble || `It was ${run?.state}.`}</p>
        <Button onClick={() => void start()}>Try every number again</Button>
      </div>
    );
  if (!ready || next.isPending)
    return (
      <div className="p-6">
        <h2 className="text-xl">What to measure next</h2>
        {run ? (
          <RunBar run={run} cancel={() => void tried.cancel()} />
        ) : (
          <Waiting what="what to measure next" />
        )}
      </div>
    );
  if (next.isError) return <Failed error={next.error} retry={() => void next.refetch()} />;
  const view = next.data;
  return (
    <div className="mx-auto max-w-5xl px-3 py-3 sm:px-5">
      <h2 className="text-xl">What to measure next</h2>
      <p className="text-quiet">
        {view.uncertain} numbers are assumed or only roughly known; {view.numbers.length} of them
        could overturn something. The gravest stands first. Estimates, each at the end of its own
        band while the others stay.
      </p>
      {view.holds.length > 0 && (
        <section aria-label="Holds from riding" className="mt-3">
          <h3 className="border-b border-ink text-lg">First what holds from riding</h3>
          <ol>
            {view.holds.map((held) => (
              <HeldLine key={held.code + held.about + held.words} held={held} />
            ))}
          </ol>
          <h3 className="mt-4 border-b border-ink text-lg">Then what could overturn something</h3>
        </section>
      )}
      {view.numbers.length === 0 && (
        <Empty>
          Nothing that is not known could overturn a verdict. What is measured holds as it is.
        </Empty>
      )}
      <ol className="mt-2" aria-label="Measurements by what they could overturn">
        {view.numbers.map((wanted, i) => (
          <NumberLine key={wanted.path} wanted={wanted} number={i + 1} />
        ))}
      </ol>
      {view.unknown.length > 0 && (
        <section aria-label="Not known" className="mt-5">
          <h3 className="border-b border-ink text-lg">Not known at all, whatever is measured</h3>
          <ul>
            {view.unknown.map((f) => (
              <li key={f.text} className="flex gap-2 border-b border-rule py-1.5">
                <VerdictMark verdict={f.verdict} quiet /> {f.text}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

type Held = MeasureNextView["holds"][number];

/** One finding that the gate waits for, and the numbers that would settle it. */
function HeldLine({ held }: { held: Held }) {
  const job = useJobId();
  return (
    <li className="border-b border-rule py-2" data-held={held.code}>
      <p>
        <VerdictMark verdict="not known" quiet /> {held.words}{" "}
        <span className="text-quiet">To clear it: {held.remedy}.</span>
      </p>
      <ul className="flex flex-wrap gap-x-4">
        {held.numbers.map((n) => (
          <li key={n.path}>
            <Link
              to={sheetOf(n.path, job)}
              className="inline-block min-h-6 underline underline-offset-4 hover:text-act"
            >
              {n.words}
            </Link>{" "}
            <span className="text-sm text-quiet">({n.known})</span>
          </li>
        ))}
      </ul>
    </li>
  );
}

type Wanted = MeasureNextView["numbers"][number];

function NumberLine({ wanted, number }: { wanted: Wanted; number: number }) {
  const pick = usePick();
  const job = useJobId();
  const to = `/jobs/${job}/survey${
    {
      bike: "",
      part: `?part=${wanted.key}`,
      mount: `?part=${wanted.key}`,
      plate: `/plates/${wanted.key}`,
    }[wanted.about]
  }`;
  const rest = wanted.flips.length - 1;
  const first = wanted.flips[0];
  return (
    <li
      className="grid grid-cols-[2.5rem_1fr_auto] items-baseline gap-x-3 border-b border-rule py-2"
      data-number={wanted.path}
    >
      <span className="num text-2xl text-act">{number}</span>
      <span>
        <Link to={to} className="font-semibold underline underline-offset-4 hover:text-act">
          {pick(wanted)}
        </Link>
        {rest > 0 && (
          <span className="block text-sm text-quiet">
            Also turns for:{" "}
            {[...new Set(wanted.flips.slice(1).map((f) => f.plate_name))].join(", ")}
          </span>
        )}
      </span>
      {first && first.before !== first.after && <Turn flip={first} />}
    </li>
  );
}

/** What would turn: the plate's own verdict, or a finding that would come or go. */
function Turn({ flip }: { flip: Wanted["flips"][number] }) {
  const whole = flip.what === "the plate";
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      {(whole || flip.before !== "sound") && <VerdictMark verdict={flip.before} />}
      <span className="text-quiet">
        {whole ? "could be" : flip.before === "sound" ? "could be found" : "could go"}
      </span>
      {(whole || flip.before === "sound") && <VerdictMark verdict={flip.after} />}
    </span>
  );
}
