import { type MouseEvent, useRef, useState } from "react";
import { type StrikeAsked, useStrikeMap, useStrikePoint } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Failed, Waiting } from "../../parts/States";
import { useUnits } from "../../parts/units";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

type Place = { x: number; y: number };

/** Where a blow hurts: the plate from below, shaded by the energy at which it reaches something. */
export function StrikeSheet() {
  const { system } = useUnits();
  const [asked, setAsked] = useState<Omit<StrikeAsked, "system">>({
    plate: "",
    direction: "from below",
    energy: "60",
    radius: "15 mm",
  });
  const [place, setPlace] = useState<Place | null>(null);
  const whole = { ...asked, system };
  const map = useStrikeMap(whole);
  const set = (part: Partial<StrikeAsked>) => setAsked({ ...asked, ...part });
  const view = map.data;
  // A question that is refused leaves the choices standing, so that it can be asked otherwise.
  const choices = useRef(view);
  if (view) choices.current = view;
  const known = choices.current;
  return (
    <div className="grid gap-x-6 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]">
      <div>
        <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
          <Choice
            label="plate"
            value={asked.plate || known?.plate_key || ""}
            options={Object.keys(known?.plates ?? {})}
            names={known?.plates ?? {}}
            onChange={(plate) => set({ plate })}
          />
          <Choice
            label="the stone comes"
            value={asked.direction}
            options={known?.directions ?? [asked.direction]}
            onChange={(direction) => set({ direction })}
          />
          <Entry
            label="its energy"
            value={asked.energy}
            unit="J"
            numeric
            onChange={(energy) => set({ energy })}
          />
          <Entry label="its radius" value={asked.radius} onChange={(radius) => set({ radius })} />
        </div>
        <p className="mt-1 text-sm text-quiet">
          A thrown stone has 5 to 15 J, rolling onto a set rock 40 to 80 J, a drop onto a log or
          ledge 100 to 400 J. Estimates for comparing plates, not a promise of what holds.
        </p>
        {map.isPending && <Waiting what="the strike map" />}
        {map.isError && <Failed error={map.error} retry={() => void map.refetch()} />}
        {view && (
          <>
            <TapMap drawing={view.drawing} tap={setPlace} fresh={!map.isPlaceholderData} />
            <Shades shades={view.shades} />
          </>
        )}
      </div>
      {view && (
        <aside aria-label="What the map says">
          <h2 className="text-xl">{view.plate}</h2>
          <p className="flex flex-wrap gap-x-5">
            {view.figures.map((figure) => (
              <span key={figure.key}>
                {figure.label} <Why figure={figure} className="text-xl" />
              </span>
            ))}
          </p>
          {view.findings.map((f) => (
            <p key={f.text} className="mt-1 flex gap-2">
              <VerdictMark verdict={f.verdict} quiet /> {f.text}
            </p>
          ))}
          <PointDetail asked={whole} place={place} />
          <h3 className="mt-4 border-b border-ink text-lg">Reached at, wherever it is struck</h3>
          <ul aria-label="Energy at which each part is reached">
            {view.reaches.map((row) => (
              <li key={row.part} className="flex gap-3 border-b border-rule py-0.5">
                <span className="flex-1">{row.part}</span>
                <Why figure={row.touches} className="text-lg" />
              </li>
            ))}
          </ul>
        </aside>
      )}
    </div>
  );
}

type TapProps = {
  drawing: Parameters<typeof Drawing>[0]["drawing"];
  tap: (place: Place) => void;
  fresh: boolean;
};

/** The map; a tap on it asks for the numbers of that place. */
function TapMap({ drawing, tap, fresh }: TapProps) {
  const click = (event: MouseEvent<HTMLDivElement>) => {
    const svg = event.currentTarget.querySelector("svg");
    const matrix = svg?.getScreenCTM();
    if (!svg || !matrix) return;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    // The creeper view looks up: right on the page is the rider's left, down is rearward.
    tap({ x: point.y, y: -point.x });
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the table beside it says the same
    // biome-ignore lint/a11y/noStaticElementInteractions: the table beside it says the same
    <div
      onClick={click}
      className={`mt-2 cursor-crosshair ${fresh ? "" : "opacity-60"}`}
      data-testid="strike-map"
    >
      <Drawing drawing={drawing} className="h-[26rem] w-full" />
    </div>
  );
}

function Shades({ shades }: { shades: readonly { fill: string; words: string }[] }) {
  return (
    <p className="flex flex-wrap gap-x-4 text-sm">
      <span className="text-quiet">Reaches something</span>
      {shades.map((shade) => (
        <span key={shade.fill} className="inline-flex items-center gap-1.5">
          <svg viewBox="0 0 16 12" className="h-3 w-4 border border-ink" aria-hidden="true">
            <rect width="16" height="12" className={`f-${shade.fill.replace(" ", "-")}`} />
          </svg>
          {shade.words}
        </span>
      ))}
    </p>
  );
}

function PointDetail({ asked, place }: { asked: StrikeAsked; place: Place | null }) {
  const point = useStrikePoint(asked, place);
  if (place === null)
    return <p className="mt-3 text-quiet">Tap the map: the numbers of that place come here.</p>;
  if (point.isPending) return <Waiting what="the place" />;
  if (point.isError) return <Failed error={point.error} retry={() => void point.refetch()} />;
  return (
    <section aria-label="The place tapped" className="mt-3 border border-ink bg-sheet p-2">
      <h3 className="text-lg">A blow {point.data.where}</h3>
      <dl className="grid grid-cols-2 gap-x-4">
        {point.data.figures.map((figure) => (
          <div key={figure.key} className="flex items-baseline gap-2 border-b border-rule">
            <dt className="flex-1 text-sm">{figure.label}</dt>
            <dd>
              <Why figure={figure} />
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
