import { useSchools } from "../../api/weighup";
import { Failed, Waiting } from "../../parts/States";
import { Why } from "../../parts/Why";

/** Where riders disagree: each way with what it gains and costs on this bike. */
export function SchoolsSheet() {
  const schools = useSchools();
  if (schools.isPending) return <Waiting what="the schools" />;
  if (schools.isError) return <Failed error={schools.error} retry={() => void schools.refetch()} />;
  return (
    <div className="px-3 py-2 sm:px-5">
      {schools.data.schools.map((school) => {
        const first = school.options.find((o) => o.figures.length > 0);
        return (
          <section key={school.key} aria-label={school.question} className="mb-5">
            <h2 className="text-xl">{school.question}</h2>
            <p className="max-w-4xl text-quiet">{school.note}</p>
            <div className="overflow-x-auto">
              <table className="mt-1 w-full min-w-[44rem]">
                <thead>
                  <tr className="border-b border-ink text-left align-bottom">
                    <th scope="col" className="w-56 font-normal text-quiet">
                      way
                    </th>
                    {first?.figures.map((figure) => (
                      <th key={figure.label} scope="col" className="pr-2 text-sm font-normal">
                        {figure.label}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {school.options.map((option) => (
                    <tr key={option.label} className="border-b border-rule align-baseline">
                      <th scope="row" className="py-1 pr-3 text-left font-normal">
                        <b className="num text-lg">{option.label}</b>
                        <span className="label block">
                          {option.stands_for || "no candidate of this kind"}
                        </span>
                      </th>
                      {option.figures.map((figure) => (
                        <td key={figure.label}>
                          <Why figure={figure} className="text-lg" />
                        </td>
                      ))}
                      {option.figures.length === 0 && (
                        <td colSpan={first?.figures.length ?? 1} className="text-quiet">
                          add one to see what it would gain and cost
                        </td>
                      )}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </section>
        );
      })}
    </div>
  );
}
