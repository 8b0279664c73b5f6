import { useState } from "react";
import { putInstead } from "../../api/kit";
import type { KitView, Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { YesNoSwitch } from "../../parts/YesNoSwitch";

type Props = {
  joint: Schemas["KitJointView"];
  place: Schemas["PlaceView"];
  view: KitView;
  close: () => void;
};

const NOTHING = {
  name: "",
  length: "",
  head: "",
  grade: "",
  nut: "",
  material: "",
  thickness: "",
  outer: "",
  hole: "",
  for_good: false,
  replace_by: "",
  note: "",
};

/** Another part in a joint's place: what it is, until when, judged once it stands there. */
export function Instead({ joint, place, view, close }: Props) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [typed, setTyped] = useState(NOTHING);
  const set = (part: Partial<typeof NOTHING>) => setTyped({ ...typed, ...part });
  const unit = system === "us" ? "in" : "mm";
  const write = putInstead({ ...typed, joint: joint.key, part: place.part, system });
  const send = async () => {
    if (await act(write)) close();
  };
  const size = (name: "length" | "thickness" | "outer" | "hole", label: string) => (
    <Entry
      label={label}
      value={typed[name]}
      onChange={(text) => set({ [name]: text })}
      unit={unit}
      numeric
    />
  );
  return (
    <section
      aria-label={`Joint ${joint.number}, instead of ${place.what}`}
      className="mt-1 border border-ink bg-paper p-3"
    >
      <p className="label">used instead of {place.what}</p>
      <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-4">
        <Entry
          label="what is used"
          value={typed.name}
          onChange={(name) => set({ name })}
          onEnter={() => void send()}
        />
        {place.kind === "screw" && (
          <>
            {size("length", "length")}
            <Choice
              label="head"
              value={typed.head}
              options={["", ...view.heads]}
              names={{ "": "the same" }}
              onChange={(head) => set({ head })}
            />
            <Choice
              label="class on its head"
              value={typed.grade}
              options={["", ...view.grades]}
              names={{ "": "the same" }}
              onChange={(grade) => set({ grade })}
            />
          </>
        )}
        {place.part === "nut" && (
          <Choice
            label="nut"
            value={typed.nut}
            options={["", ...view.nuts]}
            names={{ "": "the same" }}
            onChange={(nut) => set({ nut })}
          />
        )}
        {place.kind !== "screw" && place.part !== "nut" && (
          <>
            {size("thickness", "thickness")}
            {size("outer", "outer size")}
            {size("hole", "hole")}
            <Choice
              label="material"
              value={typed.material}
              options={["", ...view.layer_materials]}
              names={{ "": "the same" }}
              onChange={(material) => set({ material })}
            />
          </>
        )}
        <YesNoSwitch
          label="It stays for good"
          on={typed.for_good}
          set={(for_good) => set({ for_good })}
        />
        {!typed.for_good && (
          <Entry
            label="replace by (date, may stay empty)"
            value={typed.replace_by}
            onChange={(replace_by) => set({ replace_by })}
          />
        )}
      </div>
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-2 flex gap-2">
        <Button tone="main" busy={busy} onClick={() => void send()}>
          Use it
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
    </section>
  );
}
