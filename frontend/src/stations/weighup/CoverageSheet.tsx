import { useState } from "react";
import type { CoverAsked } from "../../api/types";
import { useCoverage } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Shades } from "../../parts/Shades";
import { Failed, Waiting } from "../../parts/States";
import { useLastGood } from "../../parts/useLastGood";
import { Why } from "../../parts/Why";

/** What a plate leaves bare: from below and from ahead, by direction or for the profile's mix. */
export function CoverageSheet() {
  const [asked, setAsked] = useState<CoverAsked>({ plate: "", direction: "", stone: "point" });
  const coverage = useCoverage(asked);
  const view = useLastGood(coverage.data);
  if (coverage.isError && !view)
    return <Failed error={coverage.error} retry={() => void coverage.refetch()} />;
  if (!view) return <Waiting what="what is bare" />;
  const set = (part: Partial<CoverAsked>) => setAsked({ ...asked, ...part });
  return (
    <div className="grid grid-cols-1 gap-x-6 px-3 py-2 sm:px-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,21rem)]">
      <div className="min-w-0">
        <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
          <Choice
            label="plate"
            value={asked.plate || view.plate_key}
            options={Object.keys(view.plates)}
            names={view.plates}
            onChange={(plate) => set({ plate })}
          />
          <Choice
            label="stones come"
            value={view.direction}
            options={view.directions}
            onChange={(direction) => set({ direction })}
          />
          <Choice
            label="for a stone"
            value={asked.stone}
            options={["point", "20 mm stone"]}
            names={{ point: "however small", "20 mm stone": "of 20 mm radius" }}
            onChange={(stone) => set({ stone: stone as CoverAsked["stone"] })}
          />
          <Field field={view.profile} label="riding profile" />
        </div>
        {coverage.isError && (
          <Failed error={coverage.error} retry={() => void coverage.refetch()} />
        )}
        <div
          className="mt-1 grid gap-4 sm:grid-cols-[1fr_1.1fr]"
          aria-busy={coverage.isPlaceholderData}
        >
          <figure>
            <Drawing drawing={view.below} className="h-[24rem] w-full" />
            <figcaption className="text-sm text-quiet">From below, front at the top</figcaption>
          </figure>
          <figure>
            <Drawing drawing={view.ahead} className="h-[24rem] w-full" />
            <figcaption className="text-sm text-quiet">From ahead</figcaption>
          </figure>
        </div>
        <Shades
          words="The number in each part is its shielded share in percent"
          shades={view.shades}
        />
      </div>
      <aside aria-label="What is bare" className="min-w-0">
        <h2 className="text-xl">{view.plate}</h2>
        <p>
          {view.whole.label} <Why figure={view.whole} className="text-2xl" />
        </p>
        <p>
          {view.stock.label} <Why figure={view.stock} className="text-xl" />
        </p>
        <h3 className="mt-2 border-b border-ink text-lg">Shielded, barest first</h3>
        <ul>
          {view.vitals.map((row) => (
            <li key={row.part} className="flex items-baseline gap-3 border-b border-rule py-0.5">
              <span className="num w-5 text-quiet">{row.letter}</span>
              <span className="flex-1">{row.part}</span>
              <Why figure={row.shielded} className="text-lg" />
            </li>
          ))}
        </ul>
        <h3 className="mt-2 text-lg">In words</h3>
        {view.bare.length === 0 && <p>Nothing is bare from there.</p>}
        <ul className="text-sm">
          {view.bare.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      </aside>
    </div>
  );
}
