import type { MouseEvent } from "react";
import { addFaultAt, useUnderside } from "../../api/survey";
import type { UndersideView } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { tappedAt } from "../../drawing/tapped";
import { Field } from "../../parts/Field";
import { ItemList } from "../../parts/ItemList";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { ItemPhoto } from "./ItemPhoto";

/** What the underside does with this plate on, and what the old plate has lived through. */
export function UndersideSheet() {
  const underside = useUnderside();
  if (underside.isPending) return <Waiting what="the underside" />;
  if (underside.isError)
    return <Failed error={underside.error} retry={() => void underside.refetch()} />;
  const view = underside.data;
  return (
    <div className="grid grid-cols-1 gap-x-8 px-3 py-3 sm:px-5 lg:grid-cols-2">
      <div>
        <Touches view={view} />
        <Behaviour view={view} />
        <Budget view={view} />
      </div>
      <div>
        <h2 className="text-xl">Scars of the stock plate</h2>
        <p className="text-sm text-quiet">
          Where a rider has struck before, the next stone strikes too. Dents tell how hard.
        </p>
        <Drawing drawing={view.stock_below} className="max-h-80 w-full" />
        <ItemList
          title="Dents and scrapes"
          items={view.scars}
          where="scars"
          add="Add a scar"
          empty="None marked. Look along the sheet against the light, from below."
        />
        <FaultMap view={view} />
        <ItemList
          title="Faults found under the bike"
          items={view.faults}
          where="faults"
          add="Add a fault"
          empty="None noted. A screw missing, a leak, a chafed hose: with its picture."
          extra={(item) => (
            <ItemPhoto where="faults" item={item} photo={view.photo_of[item.key] ?? ""} />
          )}
        />
        <ItemList
          title="What else was added to the bike"
          items={view.added}
          where="bike.added"
          add="Add something"
          empty="Nothing yet. Bars, racks and bags weigh on the same springs."
        />
      </div>
    </div>
  );
}

/** The bike from below: a tap notes a fault there; every place can be typed in the list too. */
function FaultMap({ view }: { view: UndersideView }) {
  const { act, trouble } = useAct();
  const tap = (event: MouseEvent<HTMLElement>) => {
    const at = tappedAt(event);
    if (at) void act(addFaultAt(at.x, at.y));
  };
  return (
    <section aria-label="Where a fault is">
      <h3 className="mt-4 border-b border-ink text-lg">Tap where something is wrong</h3>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the list below takes every place by keys */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the list below takes every place by keys */}
      <div onClick={tap} className="cursor-crosshair" data-testid="fault-map">
        <Drawing drawing={view.below} className="h-96 w-full" />
      </div>
      <Trouble words={trouble} />
    </section>
  );
}

function Touches({ view }: { view: UndersideView }) {
  return (
    <section aria-label="What touches first">
      <h2 className="text-xl">What touches first, front to rear</h2>
      <p className="text-sm text-quiet">
        With the {view.plate}: heads, nuts and screw ends, rails, pivots and stand included.
      </p>
      <table className="mt-1 w-full tabular-nums">
        <thead>
          <tr className="border-b border-ink text-left">
            <th scope="col">what</th>
            <th scope="col" className="pr-2">
              behind the front axle
            </th>
            <th scope="col" className="pr-2">
              above the ground
            </th>
            <th scope="col">at a crest of</th>
          </tr>
        </thead>
        <tbody>
          {view.touches.map((touch) => (
            <tr key={`${touch.name}${touch.x.metric}`} className="border-b border-rule">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {touch.name}
              </th>
              <td>
                <Why figure={touch.x} />
              </td>
              <td>
                <Why figure={touch.height} />
              </td>
              <td>
                <Why figure={touch.breakover} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Hooks, water, oil and filter: what is bad, and what was looked at and is right. */
function Behaviour({ view }: { view: UndersideView }) {
  const { oil, hooks, puddles } = view.underside;
  const right = [
    ...oil.paths
      .filter((o) => o.clear)
      .map((o) => `Oil from the ${view.names[o.part]} falls clear, ${o.posture}.`),
    ...oil.filters
      .filter((f) => f.comes_out)
      .map((f) => `The ${view.names[f.part]} comes out ${f.way} with its tool.`),
    ...(hooks.length === 0 ? ["No edge faces forward to hook on a root."] : []),
    ...(puddles.length === 0 ? ["No water stands on it, level or nose-up."] : []),
  ];
  return (
    <section aria-label="Hooks, water, oil, filter" className="mt-4">
      <h3 className="border-b border-ink text-lg">Hooks, water, oil, filter</h3>
      <p className="py-1">
        screws to drop for oil <Why figure={view.oil} className="text-xl" />
        <span className="block text-sm text-quiet">{view.oil.reasons[0]}</span>
      </p>
      <ul>
        {view.findings.map((f) => (
          <li key={f.text} className="flex gap-2 border-b border-rule py-1">
            <VerdictMark verdict={f.verdict} quiet /> {f.text}
          </li>
        ))}
        {right.map((words) => (
          <li key={words} className="flex gap-2 border-b border-rule py-1">
            <VerdictMark verdict="sound" quiet /> {words}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Budget({ view }: { view: UndersideView }) {
  const { budget } = view;
  return (
    <section aria-label="Added mass and sag" className="mt-4">
      <h3 className="border-b border-ink text-lg">Added mass, and how far the bike sinks</h3>
      <p className="flex flex-wrap gap-x-5 py-1">
        <span>
          in all <Why figure={budget.total} className="text-xl" />
        </span>
        <span>
          front sinks <Why figure={budget.front_sag} className="text-xl" />
        </span>
        <span>
          rear sinks <Why figure={budget.rear_sag} className="text-xl" />
        </span>
      </p>
      <ul>
        {budget.lines.map((line, i) => (
          <li key={line.name} className="flex gap-3 border-b border-rule py-1">
            <span className="flex-1">{line.name}</span>
            {budget.masses[i] && <Why figure={budget.masses[i]} />}
          </li>
        ))}
      </ul>
      <h4 className="mt-3">Your own sag readings, or the wheel rates if you have them</h4>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
        {view.sag.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
    </section>
  );
}
