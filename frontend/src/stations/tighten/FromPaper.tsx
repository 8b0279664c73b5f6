import { useId, useState } from "react";
import { startJoint, takeReading, tickStep } from "../../api/tighten";
import type { StepView, TightenView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Trouble } from "../../parts/Trouble";
import { usePick, useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";

/** What was ticked on the printed steps, entered in one go and in the plan's order. */
export function FromPaper({ view }: { view: TightenView }) {
  const open = view.steps.filter((s) => !s.done);
  const [said, setSaid] = useState("");
  if (!view.picked || (open.length === 0 && said === "")) return null;
  return (
    <details className="mt-3 border-t border-ink pt-2">
      <summary className="min-h-11 cursor-pointer py-2 text-lg text-act underline underline-offset-4">
        Enter what was ticked on paper
      </summary>
      {open.length > 0 && <Form open={open} view={view} say={setSaid} />}
      <p role="status">{said}</p>
    </details>
  );
}

type FormProps = { open: readonly StepView[]; view: TightenView; say: (words: string) => void };

function Form({ open, view, say }: FormProps) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const id = useId();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [read, setRead] = useState<Record<string, string>>({});
  const told = (s: StepView) =>
    s.step.kind === "full" ? (read[s.step.joint] ?? "").trim() !== "" : ticked.has(s.step.key);
  const chosen = open.filter(told);
  const write = (s: StepView) => {
    const joint = s.step.joint;
    const body = { joint, text: "", system, override: "", accepted: "", clicked: false };
    if (s.step.kind === "start") return startJoint(body);
    if (s.step.kind === "full") return takeReading({ ...body, text: read[joint] ?? "" });
    return tickStep({ step: s.step.key, done: true });
  };
  const send = async () => {
    let kept = 0;
    for (const step of chosen) {
      say(`${kept} of ${chosen.length} kept …`);
      // The first that is refused stops it: what comes after may rest on it.
      if (!(await act(write(step)))) break;
      kept++;
    }
    say(`${kept} of ${chosen.length} kept.`);
    if (kept === chosen.length) {
      setTicked(new Set());
      setRead({});
    }
  };
  const toggle = (key: string) =>
    setTicked((now) => new Set(now.has(key) ? [...now].filter((k) => k !== key) : [...now, key]));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <ol className="gap-x-8 md:columns-2">
        {open.map((s) => (
          <li key={s.step.key} className="break-inside-avoid border-b border-rule">
            <div className="flex min-h-11 items-center gap-3">
              <span className="num w-7 text-quiet">{s.step.number}</span>
              <label htmlFor={id + s.step.key} className="flex-1">
                {s.step.title}
                {s.torque && `, ${pick(s.torque)}`}
              </label>
              {s.step.kind === "full" ? (
                <>
                  <input
                    id={id + s.step.key}
                    className="input w-20"
                    inputMode="decimal"
                    value={read[s.step.joint] ?? ""}
                    onChange={(e) => setRead({ ...read, [s.step.joint]: e.target.value })}
                  />
                  <span>{system === "us" ? "ft·lb" : "N·m"}</span>
                </>
              ) : (
                <input
                  id={id + s.step.key}
                  type="checkbox"
                  className="size-6 accent-(--color-act)"
                  checked={ticked.has(s.step.key)}
                  onChange={() => toggle(s.step.key)}
                />
              )}
            </div>
          </li>
        ))}
      </ol>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Button tone="main" type="submit" busy={busy} disabled={chosen.length === 0}>
          Keep {chosen.length} of {view.steps.length} steps
        </Button>
      </div>
      <Trouble words={trouble} />
    </form>
  );
}
