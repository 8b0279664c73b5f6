import { useState } from "react";
import { enterSink } from "../../api/fitup";
import type { JointDetail } from "../../api/types";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { FocusProvider } from "../../parts/Focus";
import { Tray } from "../../parts/Tray";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";

/** The sink under a countersunk head: as it was measured, or asked for where nobody has. */
export function Sink({ joint }: { joint: JointDetail }) {
  if (joint.wants_sink)
    return (
      <FocusProvider>
        <EnterSink joint={joint.key} />
      </FocusProvider>
    );
  if (joint.sink.length === 0) return null;
  return (
    <section aria-label="Its sink">
      <h3 className="mt-3 border-b border-ink text-lg">Its sink</h3>
      <div className="grid grid-cols-2 gap-2">
        {joint.sink.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
    </section>
  );
}

function EnterSink({ joint }: { joint: string }) {
  const { act, trouble, busy } = useAct();
  const { system } = useUnits();
  const [diameter, setDiameter] = useState("");
  const [angle, setAngle] = useState("");
  const [below, setBelow] = useState("");
  const unit = system === "us" ? "in" : "mm";
  const full = [diameter, below].every((text) => text.trim());
  return (
    <section aria-label="Its sink">
      <h3 className="mt-3 border-b border-ink text-lg">Its sink</h3>
      <p className="text-sm text-quiet">
        Lay the calliper across the sink; set the head in and measure how far it lies below the
        sheet (minus: it stands proud). An angle that you do not know stays empty.
      </p>
      <div className="grid grid-cols-2 gap-2">
        <Entry
          label="across at the surface"
          value={diameter}
          onChange={setDiameter}
          unit={unit}
          takes={unit}
          numeric
        />
        <Entry label="its angle, if known" value={angle} onChange={setAngle} unit="°" numeric />
        <Entry
          label="head below the surface"
          value={below}
          onChange={setBelow}
          unit={unit}
          takes={unit}
          numeric
        />
      </div>
      <Tray only="calliper" />
      <Button
        busy={busy}
        disabled={!full}
        className="mt-2"
        onClick={() => void act(enterSink(joint, { diameter, angle, below, system }))}
      >
        Enter this sink
      </Button>
      <Trouble words={trouble} />
    </section>
  );
}
