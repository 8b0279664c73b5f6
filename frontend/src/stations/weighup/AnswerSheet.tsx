import { Link } from "react-router";
import { useJobId } from "../../api/job";
import { useAnswerWorked, useEveryNumberTried } from "../../api/runs";
import type { AnswerView, Figure, Finding } from "../../api/types";
import { pickPlate, useAnswer, useToMeasure, useToStrike } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Findings } from "../../parts/Findings";
import { Folded } from "../../parts/Folded";
import { RunBar } from "../../parts/RunBar";
import { Failed, Waiting } from "../../parts/States";
import { sheetOf } from "../../parts/sheetOf";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

const LINK = "text-act underline underline-offset-4";

/** Which plate: why, what it costs, what speaks against it, how sure, what would change it. */
export function AnswerSheet() {
  const left = useToStrike();
  const struck = useAnswerWorked((left.data?.plates ?? 0) > 0);
  const answer = useAnswer(left.data?.plates === 0 || struck.ready);
  const ended = struck.run?.state === "cancelled" || struck.run?.state === "failed";
  if (left.isError) return <Failed error={left.error} retry={() => void left.refetch()} />;
  if (answer.isPending && (struck.trouble || ended))
    return (
      <div className="p-6">
        <p className="mb-2 font-semibold">{struck.trouble || "No answer was worked out."}</p>
        <Button onClick={() => void struck.start()}>Work it out</Button>
      </div>
    );
  if (answer.isPending)
    return (
      <div className="p-6">
        <h2 className="text-xl">Which plate?</h2>
        <p>Every plate is struck in the computer first.</p>
        {struck.run?.state === "running" ? (
          <RunBar run={struck.run} cancel={() => void struck.cancel()} />
        ) : (
          <Waiting what="the answer" />
        )}
      </div>
    );
  if (answer.isError) return <Failed error={answer.error} retry={() => void answer.refetch()} />;
  const view = answer.data;
  const old = (left.data?.plates ?? 0) > 0 && !struck.ready;
  return (
    <div className="mx-auto grid max-w-6xl gap-x-8 px-3 py-2 sm:px-5 lg:grid-cols-[minmax(0,1fr)_24rem]">
      {old && (
        <div
          className="mb-2 border-b border-ink pb-2 lg:col-span-2"
          data-testid="before the last change"
        >
          <b>From before the last change.</b>
          {struck.run?.state === "running" ? (
            <RunBar run={struck.run} cancel={() => void struck.cancel()} />
          ) : (
            <Button className="ml-3" onClick={() => void struck.start()}>
              Work it out anew
            </Button>
          )}
        </div>
      )}
      {view.answer.key ? <Found view={view} /> : <NoneYet view={view} />}
      <Blocked plates={view.answer.blocked} />
    </div>
  );
}

/** What is missing before there is an answer, and where it is given. */
function NoneYet({ view }: { view: AnswerView }) {
  const job = useJobId();
  const { state, missing } = view.answer;
  const ways: Record<string, [to: string, words: string]> = {
    "no plates": ["first", "Enter a plate"],
    "nothing matters": ["weigh-up/priorities", "Say what matters"],
    "all blocked": ["weigh-up/compare", "Compare them"],
  };
  const [to, words] = ways[state] ?? ["weigh-up/compare", "Compare"];
  return (
    <section aria-label="Which plate">
      <h2 className="label">Which plate?</h2>
      <p className="num text-3xl">None yet.</p>
      <p className="mt-1 text-lg">{missing}</p>
      <p className="mt-2">
        <Link className={LINK} to={`/jobs/${job}/${to}`}>
          {words}
        </Link>
      </p>
    </section>
  );
}

function Found({ view }: { view: AnswerView }) {
  const { answer } = view;
  return (
    <>
      <section aria-label="Which plate" className="min-w-0">
        <h2 className="label">Which plate?</h2>
        <div className="flex flex-wrap items-center gap-x-5">
          {view.picture && <Drawing drawing={view.picture} className="h-20 max-w-full" />}
          <div className="min-w-0">
            <p className="num text-4xl leading-tight text-balance">{answer.name}</p>
            <p className="text-quiet">{view.made_of}</p>
          </div>
        </div>
        <Take view={view} />
        <p className="mt-2 text-quiet">Beside {answer.beside}:</p>
        <ul className="text-lg" aria-label="Why this one">
          {answer.reasons.map((reason) => (
            <li key={reason.words} className="border-b border-rule py-1">
              {reason.words}
            </li>
          ))}
          {answer.gives_away && (
            <li className="py-1 text-quiet" data-testid="gives away">
              But: {answer.gives_away.words}
            </li>
          )}
        </ul>
        <Sure sure={answer.sure} runnerUp={answer.runner_up} />
        <OneMeasurement />
      </section>
      <section aria-label="What it costs and leaves" className="min-w-0">
        <h3 className="mt-2 border-b border-ink text-lg lg:mt-0">What it costs</h3>
        <Costs costs={answer.costs} />
        <h3 className="mt-3 border-b border-ink text-lg">What stays bare</h3>
        <p className="py-1">
          {answer.shielded && (
            <>
              <Why figure={answer.shielded} className="text-lg" /> shielded.{" "}
            </>
          )}
          {answer.bare}
        </p>
        <h3 className="mt-3 border-b border-ink text-lg">Against it</h3>
        <Against gravest={answer.gravest} also={answer.also} ofAll={answer.of_all} />
      </section>
    </>
  );
}

/** The plate taken, or to be taken; and the way to the comparison behind the answer. */
function Take({ view }: { view: AnswerView }) {
  const job = useJobId();
  const { act, trouble, busy } = useAct();
  const take = (plate: string) => void act(pickPlate({ plate, reason: "" }));
  const { key, name } = view.answer;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      {view.taken === key ? (
        <>
          <b>Taken.</b>
          <Link className={LINK} to={`/jobs/${job}/kit`}>
            Next: its hardware
          </Link>
          <Button tone="quiet" busy={busy} onClick={() => take("")}>
            Take it back
          </Button>
        </>
      ) : (
        <Button tone="main" busy={busy} aria-label={`Take it: ${name}`} onClick={() => take(key)}>
          Take it
        </Button>
      )}
      <Link
        className="inline-flex min-h-11 items-center border border-act px-3.5 font-semibold text-act"
        to={`/jobs/${job}/weigh-up/compare`}
      >
        Compare
      </Link>
      {view.taken && view.taken !== key && (
        <p>
          Taken: <b>{view.taken_name}</b>
        </p>
      )}
      <Trouble words={trouble} />
    </div>
  );
}

function Costs({ costs }: { costs: readonly Figure[] }) {
  return (
    <dl>
      {costs.map((cost) => (
        <div key={cost.key} className="flex justify-between gap-3 border-b border-rule py-0.5">
          <dt>{cost.label}</dt>
          <dd>
            <Why figure={cost} className="text-lg" />
          </dd>
        </div>
      ))}
    </dl>
  );
}

type Found = {
  gravest: Finding | null;
  also: readonly Finding[];
  ofAll: readonly Finding[];
};

/** The gravest of it in full; the rest, and what is found of every plate, folded. */
function Against({ gravest, also, ofAll }: Found) {
  return (
    <>
      {gravest ? (
        <p className="py-1" data-testid="gravest">
          <VerdictMark verdict={gravest.verdict} /> {gravest.text}
        </p>
      ) : (
        <p className="py-1">Nothing that is known.</p>
      )}
      {also.length > 0 && (
        <Folded title={`${also.length} more`}>
          <Findings findings={also} />
        </Folded>
      )}
      {ofAll.length > 0 && (
        <Folded title={`${ofAll.length} of every plate`}>
          <Findings findings={ofAll} />
        </Folded>
      )}
    </>
  );
}

function Sure({ sure, runnerUp }: { sure: Figure | null; runnerUp: string }) {
  return (
    <section aria-label="How sure" className="mt-3">
      <h3 className="border-b border-ink text-lg">How sure</h3>
      <p className="py-1">
        {sure && (
          <>
            {sure.verdict !== "sound" && <VerdictMark verdict={sure.verdict} quiet />} First in{" "}
            <Why figure={sure} className="text-lg" /> of slightly different priorities and numbers.{" "}
          </>
        )}
        {runnerUp}
      </p>
    </section>
  );
}

/** The one measurement that would change the answer: every number is tried for it, behind. */
function OneMeasurement() {
  const job = useJobId();
  const { run, ready, trouble } = useEveryNumberTried();
  const measure = useToMeasure(ready);
  return (
    <section aria-label="What to measure" className="mt-2">
      <h3 className="border-b border-ink text-lg">Measure first</h3>
      <p className="py-1" role="status">
        {measure.data && ready ? (
          measure.data.words ? (
            <>
              {measure.data.words}{" "}
              <Link className={`${LINK} whitespace-nowrap`} to={sheetOf(measure.data.path, job)}>
                Enter it
              </Link>
            </>
          ) : (
            "Nothing: no number that is not measured would change this."
          )
        ) : (
          <span className="text-quiet">
            {trouble ||
              (run?.state === "running"
                ? `Trying every number: ${run.done} of ${run.total}`
                : "Trying every number…")}
          </span>
        )}
      </p>
    </section>
  );
}

function Blocked({ plates }: { plates: AnswerView["answer"]["blocked"] }) {
  if (plates.length === 0) return null;
  return (
    <section aria-label="Blocked plates" className="mt-3 lg:col-span-2">
      <Folded title={`${plates.length} blocked`}>
        <ul>
          {plates.map((plate) => (
            <li key={plate.key} className="border-b border-rule py-1">
              <VerdictMark verdict="blocked" quiet /> <b className="num">{plate.name}</b>:{" "}
              {plate.reason}. To clear it: {plate.clears}.{" "}
              {plate.would && `Then it ${plate.would}.`}
            </li>
          ))}
        </ul>
      </Folded>
    </section>
  );
}
