import { useState } from "react";
import { putOn } from "../../api/fitup";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { MountTicks } from "./MountTicks";

type Props = { choices: Schemas["PartChoices"] };

/** A part put on with all its joints: by what it holds, without a place in millimetres. */
export function PutOn({ choices }: Props) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [open, setOpen] = useState(false);
  const [part, setPart] = useState(Object.keys(choices.parts)[0] ?? "");
  const [mounts, setMounts] = useState<readonly string[]>([]);
  const [side, setSide] = useState("both");
  const [sheet, setSheet] = useState({ material: "", thickness: "", thread: "M8" });
  const onMounts = part === "sub-plate";
  const send = async () => {
    const done = await act(
      putOn({ part, side, ...sheet, system, mounts: onMounts ? [...mounts] : [] }),
    );
    if (done) setOpen(false);
  };
  if (!open) {
    return (
      <Button className="mt-3" onClick={() => setOpen(true)}>
        Put a part on, with its joints
      </Button>
    );
  }
  return (
    <section aria-label="A part with its joints" className="mt-3 border border-ink bg-sheet p-4">
      <h2 className="text-xl">A part with its joints</h2>
      <Choice
        label="what it is"
        value={part}
        options={Object.keys(choices.parts)}
        onChange={setPart}
      />
      <p className="text-sm text-quiet">{choices.parts[part]}.</p>
      {onMounts ? (
        <MountTicks
          legend="these mounts hold it: three or more"
          mounts={choices.mounts}
          chosen={mounts}
          choose={setMounts}
        />
      ) : (
        <div className="mt-2">
          <Choice label="on which side" value={side} options={choices.sides} onChange={setSide} />
        </div>
      )}
      <div className="mt-2 grid items-end gap-3 sm:grid-cols-3">
        <Choice
          label="sheet"
          value={sheet.material}
          options={["", ...choices.materials]}
          names={{ "": "as the plate" }}
          onChange={(material) => setSheet({ ...sheet, material })}
        />
        <Entry
          label="how thick; empty: I do not know"
          value={sheet.thickness}
          onChange={(thickness) => setSheet({ ...sheet, thickness })}
          unit={system === "us" ? "in" : "mm"}
          numeric
        />
        <Choice
          label="its screws"
          value={sheet.thread}
          options={choices.threads}
          onChange={(thread) => setSheet({ ...sheet, thread })}
        />
      </div>
      <p className="mt-2 text-sm text-quiet">
        Sizes and places follow the plate and the mounts. They count as assumed until you measure
        them.
      </p>
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-3 flex gap-2">
        <Button tone="main" busy={busy} onClick={() => void send()}>
          Put it on
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </div>
    </section>
  );
}
