import { type MouseEvent, useState } from "react";
import type { Place, StrikeAsked } from "../../api/types";
import { useDifference, useStrikeMap } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { tappedAt } from "../../drawing/tapped";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Shades } from "../../parts/Shades";
import { Failed, Waiting } from "../../parts/States";
import { useUnits } from "../../parts/units";
import { useLastGood } from "../../parts/useLastGood";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { PointDetail } from "./PointDetail";

type View = NonNullable<ReturnType<typeof useStrikeMap>["data"]>;

/** Where a blow hurts: the plate from below in shades; a tap asks for one place in full. */
export function StrikeSheet() {
  const { system } = useUnits();
  const [asked, setAsked] = useState<Omit<StrikeAsked, "system">>({
    plate: "",
    direction: "from below",
    energy: "",
    radius: "",
    shading: "touches",
    warm: "23",
  });
  const [other, setOther] = useState("");
  const [place, setPlace] = useState<Place | null>(null);
  const whole = { ...asked, system };
  const map = useStrikeMap(whole);
  const against = useDifference(whole, other);
  const set = (part: Partial<StrikeAsked>) => setAsked({ ...asked, ...part });
  const view = map.data;
  // A question that is refused leaves the choices standing, so that it can be asked otherwise.
  const known = useLastGood(view);
  return (
    <div className="grid grid-cols-1 gap-x-6 px-3 py-2 sm:px-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,25rem)]">
      <div className="min-w-0">
        <Questions known={known} asked={asked} set={set} other={other} setOther={setOther} />
        {map.isPending && <Waiting what="the strike map" />}
        {map.isError && <Failed error={map.error} retry={() => void map.refetch()} />}
        {view && other === "" && (
          <>
            <div className={view.front ? "grid gap-x-3 sm:grid-cols-2" : ""}>
              <TapMap
                drawing={view.drawing}
                from="below"
                tap={setPlace}
                fresh={!map.isPlaceholderData}
              />
              {view.front && (
                <TapMap
                  drawing={view.front}
                  from="ahead"
                  tap={setPlace}
                  fresh={!map.isPlaceholderData}
                />
              )}
            </div>
            <Shades words={`Shaded by: ${view.shadings[view.shaded_by]}`} shades={view.shades} />
            <OnFlat drawing={view.flat} />
            <p className="text-sm text-quiet">
              {energyWords(view.energy_classes)} Estimates for comparing plates, not a promise of
              what holds.
            </p>
          </>
        )}
        {other !== "" && <Difference against={against} />}
      </div>
      {view && (
        <aside aria-label="What the map says" className="min-w-0">
          {place ? (
            <PointDetail asked={whole} place={place} close={() => setPlace(null)} />
          ) : (
            <MapSaid view={view} />
          )}
        </aside>
      )}
    </div>
  );
}

/** What usually carries how much, in one sentence. */
const energyWords = (classes: View["energy_classes"]) => {
  const said = classes.map((c) => `${c.words} ${c.least_j} to ${c.most_j} J`).join(", ");
  return `${said.charAt(0).toUpperCase()}${said.slice(1)}.`;
};

type QuestionProps = {
  known: View | undefined;
  asked: Omit<StrikeAsked, "system">;
  set: (part: Partial<StrikeAsked>) => void;
  other: string;
  setOther: (plate: string) => void;
};

function Questions({ known, asked, set, other, setOther }: QuestionProps) {
  const plates = known?.plates ?? {};
  const own = asked.plate || known?.plate_key || "";
  const rivals = ["", ...Object.keys(plates).filter((key) => key !== own)];
  return (
    <div className="grid grid-cols-2 items-end gap-x-3 gap-y-1 sm:grid-cols-[1.4fr_1.3fr_0.75fr_0.65fr_1.3fr_1.4fr]">
      <Choice
        label="plate"
        value={own}
        options={Object.keys(plates)}
        names={plates}
        onChange={(plate) => {
          set({ plate });
          if (plate === other) setOther("");
        }}
      />
      <Choice
        label="the stone comes"
        value={asked.direction}
        options={known?.directions ?? [asked.direction]}
        onChange={(direction) => set({ direction })}
      />
      <Entry
        label="its energy"
        value={asked.energy || known?.energy || ""}
        unit="J"
        numeric
        onChange={(energy) => set({ energy })}
      />
      <Entry
        label="its radius"
        value={asked.radius || known?.radius || ""}
        onChange={(radius) => set({ radius })}
      />
      <Choice
        label="shaded by"
        value={asked.shading}
        options={Object.keys(known?.shadings ?? { touches: "" })}
        names={known?.shadings ?? {}}
        onChange={(shading) => set({ shading })}
      />
      <Choice
        label="held against"
        value={other}
        options={rivals}
        names={{ ...plates, "": "no other plate" }}
        onChange={setOther}
      />
      {known?.softens && (
        <Entry
          label="sheet's temperature"
          value={asked.warm}
          unit="°C"
          numeric
          onChange={(warm) => set({ warm })}
        />
      )}
    </div>
  );
}

type TapProps = {
  drawing: Parameters<typeof Drawing>[0]["drawing"];
  from: "below" | "ahead";
  tap: (place: Place) => void;
  fresh: boolean;
};

/** The map; a tap on it asks for that place in full. */
function TapMap({ drawing, from, tap, fresh }: TapProps) {
  const click = (event: MouseEvent<HTMLDivElement>) => {
    const point = tappedAt(event);
    if (!point) return;
    // Looking up or rearward, right on the page is the rider's left; down is rearward or down.
    tap(from === "below" ? { x: point.y, y: -point.x } : { x: 0, y: -point.x, z: -point.y });
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list beside it leads to the same places
    // biome-ignore lint/a11y/noStaticElementInteractions: the list beside it leads to the same places
    <div
      onClick={click}
      className="mt-1 cursor-crosshair"
      aria-busy={!fresh}
      data-testid={from === "below" ? "strike-map" : "strike-map-ahead"}
    >
      <Drawing
        drawing={drawing}
        className={from === "below" ? "h-[25rem] w-full" : "h-[12rem] w-full sm:h-[25rem]"}
      />
      <p className="text-sm text-quiet">
        {from === "below" ? "From below, front at the top" : "From ahead"}
      </p>
    </div>
  );
}

/** The same map on the sheet as it lies on the bench: apron and wings at their full size. */
function OnFlat({ drawing }: { drawing: View["flat"] }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="my-1">
      <Button aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Fold the flat pattern" : "The map on the flat pattern"}
      </Button>
      {open && <Drawing drawing={drawing} className="mt-1 h-[30rem] w-full" />}
    </div>
  );
}

function Difference({ against }: { against: ReturnType<typeof useDifference> }) {
  if (against.isPending) return <Waiting what="the difference" />;
  if (against.isError) return <Failed error={against.error} retry={() => void against.refetch()} />;
  const view = against.data;
  return (
    <section aria-label="Difference of two plates" data-testid="difference">
      <div className={view.front ? "grid gap-x-3 sm:grid-cols-2" : ""}>
        <Drawing drawing={view.drawing} className="mt-1 h-[21rem] w-full" />
        {view.front && <Drawing drawing={view.front} className="mt-1 h-[21rem] w-full" />}
      </div>
      <Shades words={`${view.plate} against ${view.other}`} shades={view.shades} />
      <p className="mt-1">{view.words}</p>
      <p className="flex flex-wrap gap-x-5">
        {view.figures.map((figure) => (
          <span key={figure.key}>
            {figure.label} <Why figure={figure} className="text-lg" />
          </span>
        ))}
      </p>
    </section>
  );
}

function MapSaid({ view }: { view: View }) {
  return (
    <>
      <h2 className="text-xl">{view.plate}</h2>
      <dl>
        {view.figures.map((figure) => (
          <div key={figure.key} className="flex items-baseline gap-3 border-b border-rule py-0.5">
            <dt className="flex-1">{figure.label}</dt>
            <dd>
              <Why figure={figure} className="text-xl" />
            </dd>
          </div>
        ))}
      </dl>
      {view.findings.map((f) => (
        <p key={f.text} className="mt-1 flex gap-2">
          <VerdictMark verdict={f.verdict} quiet /> {f.text}
        </p>
      ))}
      <p className="mt-2 text-quiet">Tap the map: that place comes here in full.</p>
      <h3 className="mt-2 border-b border-ink text-lg">Reached at, wherever it is struck</h3>
      <ul aria-label="Energy at which each part is reached">
        {view.reaches.map((row) => (
          <li key={row.part} className="flex gap-3 border-b border-rule py-0.5">
            <span className="flex-1">{row.part}</span>
            <Why figure={row.touches} className="text-lg" />
          </li>
        ))}
      </ul>
      {view.scars.length > 0 && (
        <>
          <h3 className="mt-2 border-b border-ink text-lg">
            Scars of the old plate, crosses on the map
          </h3>
          <ul>
            {view.scars.map((scar, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: scars keep their order
              <li key={i} className="border-b border-rule py-0.5">
                {scar.words}
                {scar.energy && (
                  <>
                    : made by <Why figure={scar.energy} className="text-lg" />
                  </>
                )}
                {scar.why_not && <span className="text-quiet">: {scar.why_not}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
