import { useState } from "react";
import type { WhatIfAsked } from "../../api/types";
import { keepWhatIf, useWhatIf, useWhatIfStrike } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { BeforeAfter } from "../../parts/BeforeAfter";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Shades } from "../../parts/Shades";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { useLastGood } from "../../parts/useLastGood";
import { useSettled } from "../../parts/useSettled";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { YesNoSwitch } from "../../parts/YesNoSwitch";

const NOTHING: Omit<WhatIfAsked, "system"> = {
  plate: "",
  thickness: "",
  material: "",
  slider: "",
  slider_thickness: "",
  mount_change: "",
  joints: [],
  isolator_height: "",
  spring: "",
  wing_longer: "",
  cutout: "",
  heat_foil: false,
};
const MAP_PAUSE_MS = 700;
const CHANGES = ["", "isolator", "strip", "bracket", "stiff", "spring"] as const;
const CHANGE_NAMES = {
  "": "as it is",
  isolator: "isolators under …",
  strip: "a sacrificial strip under …",
  bracket: "a soft bracket under …",
  stiff: "nothing soft under …",
  spring: "a known stiffness at …",
};

/** Joints are named, and a stiffness where one is asked for: before that nothing is tried. */
const isSaid = (typed: Omit<WhatIfAsked, "system">) =>
  typed.joints.length > 0 && (typed.mount_change !== "spring" || typed.spring.trim() !== "");

/** A what-if on a copy: rows, gates, ledger and map answer at once; kept only when asked. */
export function WhatIfSheet() {
  const { system } = useUnits();
  const [typed, setTyped] = useState<Omit<WhatIfAsked, "system">>(NOTHING);
  const asked = {
    ...typed,
    mount_change: isSaid(typed) ? typed.mount_change : "",
    system,
  } as const;
  const answer = useWhatIf(asked);
  const struck = useWhatIfStrike(useSettled(asked, MAP_PAUSE_MS));
  const { act, trouble, busy } = useAct();
  const [kept, setKept] = useState("");
  // What is refused leaves the last good answer standing, so that it can be asked otherwise.
  const view = useLastGood(answer.data);
  const set = (part: Partial<WhatIfAsked>) => {
    setKept("");
    setTyped({ ...typed, ...part });
  };
  if (!view && answer.isError)
    return <Failed error={answer.error} retry={() => void answer.refetch()} />;
  if (!view) return <Waiting what="the copy" />;
  const keep = async () => {
    const saved = await act(keepWhatIf({ asked }));
    if (saved && saved !== "held") setKept(saved.words);
  };
  return (
    <div className="grid grid-cols-1 gap-x-6 px-3 py-2 sm:px-5 lg:grid-cols-[17rem_minmax(0,1fr)_minmax(0,22rem)]">
      <section aria-label="What is tried">
        <Tries view={view} typed={typed} set={set} />
        <p className="mt-3 flex flex-wrap gap-2">
          <Button tone="main" busy={busy || answer.isError} onClick={() => void keep()}>
            Keep as a candidate
          </Button>
          <Button onClick={() => set({ ...NOTHING, plate: typed.plate })}>Start over</Button>
        </p>
        {kept && <p role="status">{kept}.</p>}
        <Trouble words={trouble} />
      </section>
      <section aria-label="Before and after" aria-busy={answer.isPlaceholderData}>
        <h2 className="text-xl leading-tight">
          {view.plate}: {view.words}
        </h2>
        {answer.isError && <Failed error={answer.error} retry={() => void answer.refetch()} />}
        <BeforeAfter rows={view.rows} />
      </section>
      <aside aria-label="What follows" className="min-w-0">
        <p>
          <VerdictMark verdict={view.verdict} />
        </p>
        <ul className="text-sm">
          {view.findings.slice(0, 5).map((f) => (
            <li key={f.text} className="border-b border-rule py-0.5">
              <VerdictMark verdict={f.verdict} quiet /> {f.text}
            </li>
          ))}
        </ul>
        <Against lines={view.ledger} />
        <h3 className="mt-2 border-b border-ink text-lg">Struck from below</h3>
        {struck.isPending && <Waiting what="its strike map" />}
        {struck.isError && <Failed error={struck.error} retry={() => void struck.refetch()} />}
        {struck.data && (
          <div aria-busy={struck.isPlaceholderData}>
            <BeforeAfter rows={struck.data.rows} />
            {struck.data.trouble && <p className="text-quiet">{struck.data.trouble}</p>}
            <Drawing drawing={struck.data.drawing} className="h-60 w-full" />
            <Shades words="Reaches something at" shades={struck.data.shades} />
          </div>
        )}
      </aside>
    </div>
  );
}

type View = NonNullable<ReturnType<typeof useWhatIf>["data"]>;
type TriesProps = {
  view: View;
  typed: Omit<WhatIfAsked, "system">;
  set: (part: Partial<WhatIfAsked>) => void;
};

function Tries({ view, typed, set }: TriesProps) {
  const same = { "": "as it is" };
  const { system } = useUnits();
  const unit = system === "us" ? "in" : "mm";
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1.5">
      <div className="col-span-2">
        <Choice
          label="copy of"
          value={typed.plate || view.plate_key}
          options={Object.keys(view.plates)}
          names={view.plates}
          onChange={(plate) => set({ ...NOTHING, plate })}
        />
      </div>
      <Entry
        label="thickness"
        value={typed.thickness}
        unit={unit}
        numeric
        onChange={(thickness) => set({ thickness })}
      />
      <Choice
        label="material"
        value={typed.material}
        options={["", ...view.materials]}
        names={same}
        onChange={(material) => set({ material })}
      />
      <Choice
        label="slider below"
        value={typed.slider}
        options={["", "none", ...view.sliders]}
        names={{ ...same, none: "no slider" }}
        onChange={(slider) => set({ slider })}
      />
      <Entry
        label="its thickness"
        value={typed.slider_thickness}
        unit={unit}
        numeric
        onChange={(slider_thickness) => set({ slider_thickness })}
      />
      <Entry
        label="wings longer by"
        value={typed.wing_longer}
        unit={unit}
        numeric
        onChange={(wing_longer) => set({ wing_longer })}
      />
      <Choice
        label="close a cutout"
        value={typed.cutout}
        options={["", ...view.cutouts]}
        names={{ "": "none" }}
        onChange={(cutout) => set({ cutout })}
      />
      <div className="col-span-2">
        <Choice
          label="mounts"
          value={typed.mount_change}
          options={CHANGES}
          names={CHANGE_NAMES}
          onChange={(change) => set({ mount_change: change as WhatIfAsked["mount_change"] })}
        />
      </div>
      {typed.mount_change === "isolator" && (
        <div className="col-span-2">
          <Entry
            label="height of the isolator"
            value={typed.isolator_height}
            unit={unit}
            numeric
            onChange={(isolator_height) => set({ isolator_height })}
          />
        </div>
      )}
      {typed.mount_change === "spring" && (
        <div className="col-span-2">
          <Entry
            label="stiffness along the screw"
            value={typed.spring}
            unit={system === "us" ? "lbf/in" : "N/mm"}
            numeric
            onChange={(spring) => set({ spring })}
          />
        </div>
      )}
      {typed.mount_change !== "" && (
        <fieldset className="col-span-2">
          <legend className="label">at these joints</legend>
          {Object.entries(view.joints).map(([key, name]) => (
            <YesNoSwitch
              key={key}
              label={name}
              on={typed.joints.includes(key)}
              set={(on) =>
                set({
                  joints: on ? [...typed.joints, key] : typed.joints.filter((j) => j !== key),
                })
              }
            />
          ))}
        </fieldset>
      )}
      <div className="col-span-2">
        <YesNoSwitch
          label="a reflective sheet against heat"
          on={typed.heat_foil}
          set={(heat_foil) => set({ heat_foil })}
        />
      </div>
    </div>
  );
}

/** The ledger with the copy in it: against stock. */
function Against({ lines }: { lines: View["ledger"] }) {
  return (
    <>
      <h3 className="mt-2 border-b border-ink text-lg">The ledger with it, against stock</h3>
      <dl className="grid grid-cols-2 gap-x-4">
        {lines.map((line) => (
          <div key={line.key} className="flex items-baseline gap-2 border-b border-rule">
            <dt className="flex-1 text-sm leading-tight">{line.label}</dt>
            <dd>
              <Why figure={line.delta} />
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}
