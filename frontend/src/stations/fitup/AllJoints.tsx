import { useState } from "react";
import { sayForAll } from "../../api/fitup";
import type { FitupView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Folded } from "../../parts/Folded";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";

/** What a sheet says once for all joints: a treatment, and torques by size. */
export function AllJoints({ view }: { view: FitupView }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [treatment, setTreatment] = useState("");
  const [torques, setTorques] = useState("");
  const send = async () => {
    if (await act(sayForAll({ treatment, torques, system }))) {
      setTreatment("");
      setTorques("");
    }
  };
  return (
    <Folded title="Say it once for all joints">
      <Choice
        label="on every thread"
        value={treatment}
        options={["", ...Object.keys(view.treatments)]}
        names={{ ...view.treatments, "": "as it is" }}
        onChange={setTreatment}
      />
      <div className="mt-2">
        <Entry
          label="printed torques by size, such as M6 10, M8 20"
          value={torques}
          onChange={setTorques}
          unit={system === "us" ? "ft·lb" : "N·m"}
        />
      </div>
      <Trouble words={trouble} className="mt-2" />
      <Button busy={busy} className="mt-2" onClick={() => void send()}>
        Say it for all {view.joints.length}
      </Button>
    </Folded>
  );
}
