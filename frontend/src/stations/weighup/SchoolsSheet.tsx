import type { Figure, School } from "../../api/types";
import { useSchools } from "../../api/weighup";
import { Failed, Waiting } from "../../parts/States";
import { Why } from "../../parts/Why";
import { MapsRun, useMaps } from "./MapsRun";

/** Where riders disagree: each way with what it gains and costs on this bike. */
export function SchoolsSheet() {
  const schools = useSchools();
  const maps = useMaps();
  if (schools.isPending) return <Waiting what="the schools" />;
  if (schools.isError) return <Failed error={schools.error} retry={() => void schools.refetch()} />;
  return (
    <div className="px-3 py-2 sm:px-5">
      <div className="mb-2 flex flex-wrap items-center gap-x-3">
        <MapsRun maps={maps} />
        <p className="text-quiet">
          What a strike does to each way stands in the tables once every plate was struck.
        </p>
      </div>
      {schools.data.schools.map((school) => (
        <Question key={school.key} school={school} run={maps.run} />
      ))}
    </div>
  );
}

type Run = ReturnType<typeof useMaps>["run"];

function Question({ school, run }: { school: School; run: Run }) {
  const first = school.options.find((o) => o.figures.length > 0);
  const struck = school.struck.flatMap((key) => run?.rows.find((row) => row.key === key) ?? []);
  const labels = [...(first?.figures ?? []), ...struck].map((known) => known.label);
  return (
    <section aria-label={school.question} className="mb-5">
      <h2 className="text-xl">{school.question}</h2>
      <p className="max-w-4xl text-quiet">{school.note}</p>
      <div className="overflow-x-auto">
        <table className="mt-1 w-full min-w-[44rem]">
          <thead>
            <tr className="border-b border-ink text-left align-bottom">
              <th scope="col" className="w-56 font-normal text-quiet">
                way
              </th>
              {labels.map((label) => (
                <th key={label} scope="col" className="pr-2 text-sm font-normal">
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {school.options.map((option) => {
              const at = run?.plates.indexOf(option.plate) ?? -1;
              const figures = [...option.figures, ...struck.map((row) => row.cells[at])];
              return (
                <tr key={option.label} className="border-b border-rule align-baseline">
                  <th scope="row" className="py-1 pr-3 text-left font-normal">
                    <b className="num text-lg">{option.label}</b>
                    <span className="label block">
                      {option.stands_for || "no candidate of this kind"}
                    </span>
                  </th>
                  {option.figures.length === 0 ? (
                    <td colSpan={labels.length || 1} className="text-quiet">
                      add one to see what it would gain and cost
                    </td>
                  ) : (
                    figures.map((figure, i) => <Cell key={labels[i]} figure={figure} />)
                  )}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** A figure with its reason; a strike that is still to come says so. */
function Cell({ figure }: { figure: Figure | undefined }) {
  return (
    <td className={`whitespace-nowrap pr-2 ${figure ? "" : "text-sm text-quiet"}`}>
      {figure ? <Why figure={figure} className="text-lg" /> : "to come"}
    </td>
  );
}
