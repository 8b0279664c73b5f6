import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { useUnits } from "../../parts/units";
import { YesNoSwitch } from "../../parts/YesNoSwitch";

export type Asked = Required<Omit<Schemas["ChangeAsk"], "system">>;
type Kind = Asked["kind"];

export const NOTHING: Asked = {
  kind: "trim",
  panel: "",
  points: [],
  wide: "",
  long: "",
  lengthwise: true,
  pitch: "",
  staggered: true,
  thick: "",
  turn: "",
  joints: [],
  what: "",
  why: "",
};
const NAMES: Record<Kind, string> = {
  trim: "trim along a line or a region",
  hole: "a hole",
  slot: "a slot",
  "vent field": "a field of vents",
  spacer: "spacers at mounts",
  bend: "a bend, more or less",
  "other side": "a part to the other side",
  "sleeve cut": "cut a sleeve to fit",
  "neighbour trimmed": "trim a neighbour",
};
const MOST_CORNERS = 40;

/** How many places a change asks for. */
export const wants = (kind: Kind) =>
  kind === "trim" ? MOST_CORNERS : kind === "hole" || kind === "slot" ? 1 : 0;

const placed = (asked: Asked) => asked.points.filter((p) => p.x.trim() && p.y.trim()).length;

/** Whether enough is said to ask for its price. */
export function said(asked: Asked): boolean {
  const places = placed(asked);
  if (places < asked.points.length) return false;
  if (asked.kind === "trim") return places >= 2;
  if (asked.kind === "hole") return places === 1 && asked.wide.trim() !== "";
  if (asked.kind === "slot")
    return places === 1 && asked.wide.trim() !== "" && asked.long.trim() !== "";
  if (asked.kind === "vent field")
    return asked.panel !== "" && asked.wide.trim() !== "" && asked.pitch.trim() !== "";
  if (asked.kind === "spacer" || (asked.kind === "sleeve cut" && asked.joints.length > 0))
    return asked.joints.length > 0 && asked.thick.trim() !== "";
  if (asked.kind === "bend" && asked.panel !== "") return asked.turn.trim() !== "";
  if (asked.kind === "other side" && asked.panel !== "") return true;
  return asked.what.trim() !== "";
}

type Props = { view: Schemas["ChangesView"]; asked: Asked; set: (asked: Asked) => void };

/** What is to be changed: tapped on the flat plate, or typed. */
export function ChangeForm({ view, asked, set }: Props) {
  const { system } = useUnits();
  const unit = system === "us" ? "in" : "mm";
  const parts = partsOf(view, asked.kind);
  const joints = asked.kind === "spacer" ? view.joints : view.sleeves;
  const takesJoints = asked.kind === "spacer" || asked.kind === "sleeve cut";
  const words =
    view.words_only.includes(asked.kind) ||
    (parts !== undefined && asked.panel === "") ||
    (asked.kind === "sleeve cut" && asked.joints.length === 0);
  const number = (label: string, name: "wide" | "long" | "pitch" | "thick") => (
    <Entry
      label={label}
      value={asked[name]}
      onChange={(value) => set({ ...asked, [name]: value })}
      unit={unit}
      numeric
    />
  );
  return (
    <section aria-label="A change to try">
      <h3 className="border-b border-ink text-lg">Try a change</h3>
      <div className="mt-1 grid grid-cols-2 items-end gap-2">
        <div className="col-span-2">
          <Choice
            label="what"
            value={asked.kind}
            options={Object.keys(NAMES)}
            names={NAMES}
            onChange={(kind) => set({ ...NOTHING, why: asked.why, kind: kind as Kind })}
          />
        </div>
        {asked.kind === "vent field" && (
          <Choice
            label="panel"
            value={asked.panel}
            options={["", ...view.panels]}
            names={{ "": "choose one" }}
            onChange={(panel) => set({ ...asked, panel })}
          />
        )}
        {["hole", "slot", "vent field"].includes(asked.kind) && number("hole, across", "wide")}
        {asked.kind === "slot" && number("slot, long", "long")}
        {asked.kind === "slot" && (
          <YesNoSwitch
            label="along the bike"
            on={asked.lengthwise}
            set={(lengthwise) => set({ ...asked, lengthwise })}
          />
        )}
        {asked.kind === "vent field" && number("from hole to hole", "pitch")}
        {asked.kind === "vent field" && (
          <YesNoSwitch
            label="rows staggered"
            on={asked.staggered}
            set={(staggered) => set({ ...asked, staggered })}
          />
        )}
        {parts && (
          <Choice
            label="which"
            value={asked.panel}
            options={["", ...Object.keys(parts)]}
            names={{ "": "something else, in words", ...parts }}
            onChange={(panel) => set({ ...asked, panel, what: "" })}
          />
        )}
        {asked.kind === "bend" && asked.panel !== "" && (
          <Entry
            label="bent up by (below zero: down)"
            value={asked.turn}
            onChange={(turn) => set({ ...asked, turn })}
            unit="°"
            numeric
          />
        )}
        {takesJoints && number(asked.kind === "spacer" ? "thick" : "cut to", "thick")}
        {takesJoints && <JointPick joints={joints} asked={asked} set={set} />}
        {words && (
          <div className="col-span-2">
            <Entry
              label="what is done"
              value={asked.what}
              onChange={(what) => set({ ...asked, what })}
            />
          </div>
        )}
        {wants(asked.kind) > 0 && <Places asked={asked} set={set} unit={unit} />}
        <div className="col-span-2">
          <Entry label="why" value={asked.why} onChange={(why) => set({ ...asked, why })} />
        </div>
      </div>
    </section>
  );
}

/** What a change of this kind can be made to, by key: folds, or what can change sides. */
function partsOf(view: Props["view"], kind: Kind): Readonly<Record<string, string>> | undefined {
  if (kind === "bend") return view.bends;
  return kind === "other side" ? view.sides : undefined;
}

type JointsProps = Omit<Props, "view"> & { joints: Readonly<Record<string, string>> };

function JointPick({ joints, asked, set }: JointsProps) {
  return (
    <fieldset className="col-span-2">
      <legend className="label">at joints</legend>
      <div className="grid gap-x-3 sm:grid-cols-2">
        {Object.entries(joints).map(([key, name]) => (
          <YesNoSwitch
            key={key}
            label={name}
            on={asked.joints.includes(key)}
            set={(on) =>
              set({
                ...asked,
                joints: on ? [...asked.joints, key] : asked.joints.filter((k) => k !== key),
              })
            }
          />
        ))}
      </div>
    </fieldset>
  );
}

type PlacesProps = { asked: Asked; set: (asked: Asked) => void; unit: string };

/** Places in the flat plate: tapped there, or typed here. */
function Places({ asked, set, unit }: PlacesProps) {
  const most = wants(asked.kind);
  const change = (i: number, part: Partial<{ x: string; y: string }>) =>
    set({
      ...asked,
      points: asked.points.map((p, k) => (k === i ? { ...p, ...part } : p)),
    });
  return (
    <fieldset className="col-span-2">
      <legend className="text-sm text-quiet">
        {asked.kind === "trim"
          ? "Tap the two ends of the line, or go round what comes off; the smaller side goes."
          : "Tap its place on the flat plate."}
      </legend>
      {asked.points.map((point, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: places are told apart by their order
        <div key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <Entry
            label={`place ${i + 1}, behind the fold or front edge`}
            value={point.x}
            onChange={(x) => change(i, { x })}
            unit={unit}
            numeric
          />
          <Entry
            label={`place ${i + 1}, to the right`}
            value={point.y}
            onChange={(y) => change(i, { y })}
            unit={unit}
            numeric
          />
          <Button
            tone="quiet"
            aria-label={`Take place ${i + 1} out`}
            onClick={() => set({ ...asked, points: asked.points.filter((_, k) => k !== i) })}
          >
            Out
          </Button>
        </div>
      ))}
      {asked.points.length < most && (
        <Button
          tone="quiet"
          onClick={() => set({ ...asked, points: [...asked.points, { x: "", y: "" }] })}
        >
          Type a place
        </Button>
      )}
    </fieldset>
  );
}
