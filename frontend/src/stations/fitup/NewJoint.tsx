import { useState } from "react";
import { addJoint } from "../../api/fitup";
import type { FitupView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { MountTicks } from "./MountTicks";

type Props = { view: FitupView; close: () => void };

const BIKE = "to the bike";
const BENCH = "on the bench";

/** On a phone the form opens under the list of joints: it is brought to the eye. */
const shown = (form: HTMLElement | null) => form?.scrollIntoView?.({ block: "nearest" });

/** A joint from a starting point: on the bike's mounts, at a place, or between two parts. */
export function NewJoint({ view, close }: Props) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [preset, setPreset] = useState(Object.keys(view.presets)[0] ?? "");
  const [thread, setThread] = useState("M8");
  const [stage, setStage] = useState("stiff");
  const [holds, setHolds] = useState(BIKE);
  const [place, setPlace] = useState({ x: "", y: "" });
  const [mounts, setMounts] = useState<readonly string[]>([]);
  const toBike = holds === BIKE;
  const joins = holds in view.pieces ? holds : "";
  const build = (mount: string) =>
    act(addJoint({ preset, thread, stage, mount, joins, ...place, system }));
  const holdsNow = (what: string) => {
    setHolds(what);
    setStage(what === BIKE ? "stiff" : "bench");
    if (what !== BIKE) setPreset("through nut" in view.presets ? "through nut" : preset);
  };
  const send = async () => {
    let left = toBike && mounts.length > 0 ? [...mounts] : [""];
    for (const mount of left) {
      if (!(await build(mount))) return;
      left = left.filter((m) => m !== mount);
      setMounts(left.filter(Boolean));
    }
    close();
  };
  return (
    <section
      aria-label="New joint"
      ref={shown}
      className="max-w-3xl border border-ink bg-sheet p-4"
    >
      <h2 className="text-2xl">A joint of your own</h2>
      <p className="mb-3 text-quiet">
        It starts with typical sizes; measure and correct them. Where it is decides its place in the
        order of work.
      </p>
      <Choice
        label="what it holds"
        value={holds}
        options={[BIKE, ...Object.keys(view.pieces), BENCH]}
        names={{
          [BIKE]: "the plate, or a bracket, to the bike",
          [BENCH]: "two parts, put together on the bench",
          ...Object.fromEntries(
            Object.entries(view.pieces).map(([key, name]) => [key, `the ${name} to the plate`]),
          ),
        }}
        onChange={holdsNow}
      />
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <div className="sm:col-span-2">
          <Choice
            label="starting point"
            value={preset}
            options={Object.keys(view.presets)}
            onChange={setPreset}
          />
          <p className="text-sm text-quiet">{view.presets[preset]}.</p>
        </div>
        <Choice
          label="when it is tightened"
          value={stage}
          options={Object.keys(view.stages)}
          names={view.stages}
          onChange={setStage}
        />
      </div>
      {toBike && (
        <MountTicks
          legend="on these mounts of the bike; none ticked: at a place of your own"
          mounts={view.mounts}
          chosen={mounts}
          choose={setMounts}
        />
      )}
      {!toBike && (
        <p className="mt-3 text-sm text-quiet">
          It holds nothing to the bike. Where it stands may be left empty.
        </p>
      )}
      {(!toBike || mounts.length === 0) && (
        <OwnPlace {...{ view, thread, setThread, place, setPlace }} />
      )}
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-4 flex gap-2">
        <Button tone="main" busy={busy} onClick={() => void send()}>
          {toBike && mounts.length > 1 ? `Build ${mounts.length} joints` : "Build this joint"}
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
    </section>
  );
}

type PlaceProps = {
  view: FitupView;
  thread: string;
  setThread: (thread: string) => void;
  place: { x: string; y: string };
  setPlace: (place: { x: string; y: string }) => void;
};

function OwnPlace({ view, thread, setThread, place, setPlace }: PlaceProps) {
  const { system } = useUnits();
  const unit = system === "us" ? "in" : "mm";
  return (
    <div className="mt-3 grid items-end gap-3 sm:grid-cols-3">
      <Choice label="thread" value={thread} options={view.threads} onChange={setThread} />
      <Entry
        label="behind the front axle, x"
        value={place.x}
        onChange={(x) => setPlace({ ...place, x })}
        unit={unit}
        numeric
      />
      <Entry
        label="to the rider's right, y (left is minus)"
        value={place.y}
        onChange={(y) => setPlace({ ...place, y })}
        unit={unit}
        numeric
      />
    </div>
  );
}
