import { useState } from "react";
import { rideAnyway } from "../../api/tighten";
import type { TightenView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { LockerClocks } from "./LockerClocks";
import { ReadyList } from "./ReadyList";

/** Whether it can be ridden: what is missing, and a reason where it is ridden all the same. */
export function ReadyPanel({ view }: { view: TightenView }) {
  const { missing, verdict } = view.ready;
  return (
    <section aria-label="Ready to ride" className="mt-3 border-t border-ink pt-2">
      <h2 className="flex flex-wrap items-center gap-x-3 text-lg">
        {missing.length === 0 ? "Ready to ride" : "Not ready to ride"}
        <VerdictMark verdict={verdict} />
      </h2>
      <Cautions texts={view.cautions} />
      <ReadyList ready={view.ready} mayPass={view.picked} />
      <LockerClocks clocks={view.clocks} />
      <div className="w-60">
        <Field field={view.warmth} />
      </div>
      {view.picked && missing.length > 0 && <Anyway />}
      {view.overrides.map((o) => (
        <p key={o.at} className="border-l-4 border-blocked pl-2">
          {o.at.replace("T", " ").slice(0, 16)}: ridden though {o.missing.length} things were
          missing, because {o.reason}
        </p>
      ))}
    </section>
  );
}

function Anyway() {
  const { act, trouble, busy } = useAct();
  const [reason, setReason] = useState("");
  const send = async () => {
    if (await act(rideAnyway(reason))) setReason("");
  };
  return (
    <details className="mt-2">
      <summary className="min-h-11 cursor-pointer py-2 text-act underline underline-offset-4">
        Ride all the same
      </summary>
      <div className="flex flex-wrap items-end gap-2">
        <Entry label="because (kept and printed)" value={reason} onChange={setReason} wide />
        <Button busy={busy} disabled={reason.trim().length < 3} onClick={() => void send()}>
          Keep this reason
        </Button>
      </div>
      <Trouble words={trouble} />
    </details>
  );
}
