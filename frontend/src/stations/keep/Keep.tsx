import { useState } from "react";
import { useJobId } from "../../api/job";
import { noteCounter, noteFound, useKeep } from "../../api/keep";
import type { Recheck } from "../../api/types";
import { Button } from "../../parts/Button";
import { Debts } from "../../parts/Debts";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

/** Keep: what is due, and the torque found at the re-check. */
export function Keep() {
  const keep = useKeep();
  const job = useJobId();
  if (keep.isPending) return <Waiting what="what is due" />;
  if (keep.isError) return <Failed error={keep.error} retry={() => void keep.refetch()} />;
  const view = keep.data;
  return (
    <div className="grid gap-x-8 gap-y-5 px-3 py-3 sm:px-5 md:grid-cols-[1fr_20rem]">
      <section aria-label="Due">
        <h2 className="num text-3xl leading-tight" data-testid="due">
          {view.due.words}
        </h2>
        <p className="mt-1">
          <VerdictMark verdict={view.due.verdict} /> {view.plate}
        </p>
        <ul className="mt-2">
          {view.due.reasons.map((reason) => (
            <li key={reason} className="border-l-2 border-rule pl-2.5">
              {reason}
            </li>
          ))}
        </ul>
        <Debts debts={view.debts} />
        <ol className="mt-4" aria-label="Joints to re-check">
          {view.joints.map((joint) => (
            <RecheckLine key={joint.joint.key} view={joint} />
          ))}
        </ol>
      </section>
      <aside>
        <Km />
        <div className="mt-3">
          <Field field={view.odometer} />
        </div>
        <p className="mt-2">
          Counter now: <Why figure={view.km} className="text-xl" />
        </p>
        <a
          className="mt-3 inline-flex min-h-11 items-center border border-act px-3.5 font-semibold text-act"
          href={`/api/jobs/${job}/file`}
          download="job.json"
        >
          Save the job as a file
        </a>
        {view.cautions.map((words) => (
          <p key={words} className="mt-3 border-l-4 border-mind pl-2.5 text-sm">
            {words}
          </p>
        ))}
      </aside>
    </div>
  );
}

function RecheckLine({ view }: { view: Recheck }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const send = async () => {
    const done = await act(noteFound({ joint: view.joint.key, text, system }));
    if (done) setText("");
  };
  return (
    <li className="border-t border-rule py-1.5" data-recheck={view.joint.key}>
      <div className="grid grid-cols-[1.8rem_1fr_auto] items-end gap-x-3 lg:grid-cols-[1.8rem_1fr_12rem_auto]">
        <span className="num text-2xl">{view.joint.number}</span>
        <span className="min-w-0">
          <span className="block">{view.joint.name}</span>
          <VerdictMark verdict={view.verdict} /> <span className="text-sm">{view.words}</span>
        </span>
        <span className="text-right">
          <span className="label">target</span> <Why figure={view.target} className="text-lg" />
          {view.found && (
            <span className="block">
              <span className="label">found</span> <Why figure={view.found} className="text-lg" />
            </span>
          )}
        </span>
        <span className="col-span-3 flex items-end gap-2 lg:col-span-1">
          <Entry
            label={`found on joint ${view.joint.number}`}
            value={text}
            onChange={setText}
            unit={system === "us" ? "ft·lb" : "N·m"}
            numeric
            onEnter={() => void send()}
          />
          <Button busy={busy} onClick={() => void send()}>
            Record found torque
          </Button>
        </span>
      </div>
      <Trouble words={trouble} />
    </li>
  );
}

function Km() {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const send = async () => {
    const done = await act(noteCounter({ text, system }));
    if (done) setText("");
  };
  return (
    <section aria-label="Counter">
      <div className="flex items-end gap-2">
        <Entry
          label="counter now"
          value={text}
          onChange={setText}
          unit={system === "us" ? "mi" : "km"}
          numeric
          onEnter={() => void send()}
        />
        <Button busy={busy} onClick={() => void send()}>
          Note the counter
        </Button>
      </div>
      <Trouble words={trouble} />
    </section>
  );
}
