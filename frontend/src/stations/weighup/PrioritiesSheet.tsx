import { useEffect, useState } from "react";
import { beginRankShifts, useRun } from "../../api/runs";
import type { FieldView } from "../../api/types";
import { usePriorities } from "../../api/weighup";
import { Button } from "../../parts/Button";
import { RunControl } from "../../parts/RunControl";
import { Failed, Waiting } from "../../parts/States";
import { useFieldSave } from "../../parts/useFieldSave";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

type View = NonNullable<ReturnType<typeof usePriorities>["data"]>;

/** What matters to this rider, the ranking that follows, how sure it is, what would turn it. */
export function PrioritiesSheet() {
  const priorities = usePriorities();
  if (priorities.isPending) return <Waiting what="the ranking" />;
  if (priorities.isError)
    return <Failed error={priorities.error} retry={() => void priorities.refetch()} />;
  const view = priorities.data;
  return (
    <div className="grid grid-cols-1 gap-x-8 px-3 py-2 sm:px-5 lg:grid-cols-[minmax(0,19rem)_minmax(0,1fr)]">
      <section aria-label="Priorities">
        <h2 className="text-xl">What matters, 0 to 10</h2>
        {view.priorities.map((field, i) => (
          <Weight key={field.path} field={field} scale={view.scales[i] ?? ""} />
        ))}
      </section>
      <section aria-label="Ranking" className="min-w-0">
        <h2 className="text-xl">The ranking that follows</h2>
        {view.reasons.map((words) => (
          <p key={words}>{words}</p>
        ))}
        {view.findings.map((f) => (
          <p key={f.text} className="mt-0.5 flex gap-2">
            <VerdictMark verdict={f.verdict} quiet /> {f.text}
          </p>
        ))}
        <SameForAll view={view} />
        <Ranking view={view} />
        {view.shut_out.length > 0 && (
          <>
            <h3 className="mt-3 border-b border-ink text-lg">Blocked as they are</h3>
            <ul>
              {view.shut_out.map((plate) => (
                <li key={plate.key} className="border-b border-rule py-1">
                  <VerdictMark verdict="blocked" quiet /> <b className="num">{plate.name}</b>:{" "}
                  {plate.reason}. {plate.would && `It ${plate.would} if that were cleared: `}
                  {!plate.would && "Cleared by: "}
                  {plate.clears}.
                </li>
              ))}
            </ul>
          </>
        )}
        <Turns />
      </section>
    </div>
  );
}

function Weight({ field, scale }: { field: FieldView; scale: string }) {
  const { state, save } = useFieldSave(field.path);
  const [value, setValue] = useState(field.metric);
  useEffect(() => setValue(field.metric), [field.metric]);
  const put = (text: string) => {
    setValue(text);
    if (text !== field.metric) void save(text);
  };
  const step = (by: number) =>
    put(String(Math.min(10, Math.max(0, Math.round(Number(value) + by)))));
  return (
    <div className="mt-1 border-b border-rule pb-1">
      <div className="flex items-center gap-2">
        <span className="flex-1 font-semibold">{field.label}</span>
        <Button className="px-3!" aria-label={`Less: ${field.label}`} onClick={() => step(-1)}>
          −
        </Button>
        <span className="num w-7 text-center text-xl">{value}</span>
        <Button className="px-3!" aria-label={`More: ${field.label}`} onClick={() => step(1)}>
          +
        </Button>
      </div>
      <input
        type="range"
        min="0"
        max="10"
        step="1"
        value={value}
        aria-label={field.label}
        data-path={field.path}
        className="weight h-6 w-full"
        onChange={(event) => setValue(event.target.value)}
        onPointerUp={(event) => put(event.currentTarget.value)}
        onKeyUp={(event) => put(event.currentTarget.value)}
        onBlur={(event) => put(event.currentTarget.value)}
      />
      <p className="label leading-tight">{scale}</p>
      {"words" in state && (
        <p role="alert" className="text-sm font-semibold text-blocked">
          {state.words}
        </p>
      )}
    </div>
  );
}

/** What is the same for every ranked plate stands once. */
function SameForAll({ view }: { view: View }) {
  if (view.same.length + view.missing_of_all.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-4 text-sm text-quiet" data-testid="same for all">
      The same for all:
      {view.same.map((value) => (
        <span key={value.key}>
          {value.label} <Why figure={value} />
        </span>
      ))}
      {view.missing_of_all.length > 0 && <span>not known: {view.missing_of_all.join(", ")}</span>}
    </p>
  );
}

function Ranking({ view }: { view: View }) {
  return (
    <ol className="mt-1">
      {view.ranking.map((plate) => (
        <li key={plate.key} className="border-t border-ink py-1" data-ranked={plate.key}>
          <p className="flex flex-wrap items-baseline gap-x-4">
            <span className="num text-2xl text-act">{plate.rank}</span>
            <b className="num text-xl">{plate.name}</b>
            <span>
              score <Why figure={plate.score} className="text-lg" />
            </span>
            <span>
              first in <Why figure={plate.first} className="text-lg" /> of draws
            </span>
            <span className={plate.pareto ? "text-quiet" : "font-semibold"}>
              {plate.pareto
                ? "no other is at least as good in everything"
                : "another is at least as good in everything"}
            </span>
          </p>
          {plate.verdict === "blocked" && (
            <p>
              <VerdictMark verdict="blocked" quiet /> <b>blocked</b> as it is: {plate.reason}
            </p>
          )}
          <p className="text-sm">
            {plate.to_first}
            {plate.missing.length > 0 ? `; not known: ${plate.missing.join(", ")}` : ""}
          </p>
          <p className="flex flex-wrap gap-x-4 text-sm text-quiet">
            {plate.values.map((value) => (
              <span key={value.key}>
                {value.label} <Why figure={value} />
              </span>
            ))}
          </p>
        </li>
      ))}
    </ol>
  );
}

/** The one measurement that could put another plate first. */
function Turns() {
  const shifts = useRun("rank shifts", beginRankShifts);
  const run = shifts.run;
  const over = run !== undefined && run.state !== "running";
  return (
    <section aria-label="What a measurement could turn" className="mt-4">
      <h3 className="border-b border-ink text-lg">Which unknown number could turn the pick?</h3>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        <RunControl
          work={shifts}
          first="Try every number that is not measured"
          again="Try them all again"
          stale="Tried before the last change."
        />
      </div>
      {run?.rank_shifts.map((words) => (
        <p key={words} className="mt-1">
          {words}
        </p>
      ))}
      {over && run.state === "done" && run.rank_shifts.length === 0 && (
        <p className="mt-1">None: the first stays first at both ends of every band.</p>
      )}
    </section>
  );
}
