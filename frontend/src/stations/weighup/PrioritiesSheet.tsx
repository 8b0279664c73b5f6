import { usePriorities } from "../../api/weighup";
import { Field } from "../../parts/Field";
import { Failed, Waiting } from "../../parts/States";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

/** What matters to this rider, the ranking that follows, how sure it is, what would turn it. */
export function PrioritiesSheet() {
  const priorities = usePriorities();
  if (priorities.isPending) return <Waiting what="the ranking" />;
  if (priorities.isError)
    return <Failed error={priorities.error} retry={() => void priorities.refetch()} />;
  const view = priorities.data;
  return (
    <div className="grid gap-x-8 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,20rem)_minmax(0,1fr)]">
      <section aria-label="Priorities">
        <h2 className="text-xl">What matters, 0 to 10</h2>
        {view.priorities.map((field, i) => (
          <div key={field.path} className="mt-2">
            <Field field={field} />
            <p className="label">{view.scales[i]}</p>
          </div>
        ))}
      </section>
      <section aria-label="Ranking">
        <h2 className="text-xl">The ranking that follows</h2>
        {view.reasons.map((words) => (
          <p key={words}>{words}</p>
        ))}
        {view.findings.map((f) => (
          <p key={f.text} className="mt-1 flex gap-2">
            <VerdictMark verdict={f.verdict} quiet /> {f.text}
          </p>
        ))}
        <ol className="mt-2">
          {view.ranking.map((plate) => (
            <li key={plate.key} className="border-t border-ink py-2" data-ranked={plate.key}>
              <p className="flex flex-wrap items-baseline gap-x-4">
                <span className="num text-3xl text-act">{plate.rank}</span>
                <b className="num text-xl">{plate.name}</b>
                <span>
                  score <Why figure={plate.score} className="text-xl" />
                </span>
                <span>
                  first in <Why figure={plate.first} className="text-xl" /> of nearby weightings
                </span>
                {!plate.pareto && (
                  <span className="font-semibold">beaten everywhere by another</span>
                )}
              </p>
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
      </section>
    </div>
  );
}
