import { useState } from "react";
import { noteCounter, noteLooked, putOff } from "../../api/keep";
import { cameOverNetwork } from "../../api/phones";
import type { KeepView, Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Debts } from "../../parts/Debts";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { TimeLine } from "./TimeLine";
import { WithKeep } from "./withKeep";

type Due = Schemas["Due"];

/** What is due and why, at a glance; the line of what was and what comes. */
export function DueSheet() {
  return <WithKeep>{(view) => <Sheet view={view} />}</WithKeep>;
}

function Sheet({ view }: { view: KeepView }) {
  return (
    <div className="grid gap-x-8 gap-y-4 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,1fr)_19rem]">
      <section aria-label="Due" className="min-w-0">
        <h2 className="num text-3xl leading-tight" data-testid="due">
          <VerdictMark verdict={view.due.verdict} quiet /> {view.due.words}
        </h2>
        <p className="text-quiet">{view.plate}</p>
        <ul className="mt-1" aria-label="What is due">
          {view.dues.map((due) => (
            <DueLine key={due.key} due={due} after={view.after_blow} />
          ))}
        </ul>
        {!view.fitted && (
          <p className="mt-2 text-quiet">
            What is due begins with the first torque that stands once every step of the plan is
            done.
          </p>
        )}
        <Debts debts={view.debts} />
        <TimeLine view={view} />
      </section>
      <aside className="min-w-0">
        <p>
          <span className="label block">counter now</span>
          <Why figure={view.km} className="text-4xl" />
        </p>
        <Km />
        {!cameOverNetwork() && (
          <details className="mt-2">
            <summary className="min-h-11 cursor-pointer py-2 text-act underline underline-offset-4">
              The counter when it was fitted
            </summary>
            <Field field={view.odometer} />
          </details>
        )}
        <Cautions texts={view.cautions} />
      </aside>
    </div>
  );
}

function DueLine({ due, after }: { due: Due; after: readonly string[] }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-t border-rule py-1" data-due={due.key} data-state={due.state}>
      <div className="grid grid-cols-[1.25rem_minmax(0,1fr)_auto] items-center gap-x-2 sm:grid-cols-[1.25rem_minmax(0,1fr)_9rem_auto]">
        <VerdictMark verdict={due.verdict} quiet />
        <p className="min-w-0 leading-tight">
          <b className="num text-xl">{due.label}</b>{" "}
          <span className="num text-xl">{due.put_off ? "put off" : due.left}</span>
          <span className="block text-sm">
            {due.words}
            {due.put_off && `; put off: ${due.put_off}`}
          </span>
        </p>
        <div className="hidden h-2.5 bg-steel sm:block" aria-hidden="true">
          <div
            className={`h-full ${due.state === "now" ? "bg-mind" : "bg-ink/50"}`}
            style={{ width: `${Math.min(1, due.share) * 100}%` }}
          />
        </div>
        <Button tone="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Fold" : "Why"}
          <span className="sr-only">: {due.label}</span>
        </Button>
      </div>
      {due.key.startsWith("blow:") && due.verdict !== "blocked" && <Looked after={after} />}
      {open && <More due={due} />}
    </li>
  );
}

/** One tap where everything that a blow can harm was looked at and is well. */
function Looked({ after }: { after: readonly string[] }) {
  const { act, trouble, busy } = useAct();
  return (
    <div className="pb-1">
      <Button
        className="min-h-14! w-full sm:w-auto"
        busy={busy}
        onClick={() => void act(noteLooked({ looked: [...after], found: "" }))}
      >
        All well: {after.join(", ")}
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}

function More({ due }: { due: Due }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [km, setKm] = useState("");
  const [until, setUntil] = useState("");
  const [reason, setReason] = useState("");
  const send = () => act(putOff({ due: due.key, until_km: km, until, reason, system }));
  return (
    <div className="border-l-2 border-rule pl-3">
      {due.reasons.map((reason) => (
        <p key={reason}>{reason}</p>
      ))}
      <p className="text-sm text-quiet">
        {due.source.text}, confidence {due.source.confidence}
      </p>
      {due.state === "now" && due.may_put_off && (
        <div className="mt-1 flex flex-wrap items-end gap-2">
          <div className="w-32">
            <Entry
              label="put off until, counter"
              value={km}
              onChange={setKm}
              unit={system === "us" ? "mi" : "km"}
              numeric
            />
          </div>
          <label className="block">
            <span className="label block">or until the day</span>
            <input
              type="date"
              className="input"
              value={until}
              onChange={(event) => setUntil(event.target.value)}
            />
          </label>
          <Entry label="because" value={reason} onChange={setReason} wide />
          <Button busy={busy} disabled={reason.trim().length < 3} onClick={() => void send()}>
            Put off
          </Button>
        </div>
      )}
      <Trouble words={trouble} />
    </div>
  );
}

function Km() {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const send = async () => {
    if (await act(noteCounter({ text, system }))) setText("");
  };
  return (
    <section aria-label="Counter" className="mt-2">
      <div className="flex items-end gap-2">
        <Entry
          label="read the counter"
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
