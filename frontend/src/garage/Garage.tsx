import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { photoAt } from "../api/files";
import { useJobId } from "../api/job";
import { cameOverNetwork, isShutOut } from "../api/phones";
import { startJoint, tickStep, useTighten } from "../api/tighten";
import type { CardView, StepView, TightenView } from "../api/types";
import { Holding, useWaiting, type WaitingLine } from "../api/waiting";
import { Drawing } from "../drawing/Drawing";
import { Button } from "../parts/Button";
import { InSpace } from "../parts/InSpace";
import { Failed, Waiting } from "../parts/States";
import { Trouble } from "../parts/Trouble";
import { useOther, usePick, useUnits } from "../parts/units";
import { useAct } from "../parts/useAct";
import { useShortcuts } from "../parts/useShortcuts";
import { useTitle } from "../parts/useTitle";
import { VerdictMark } from "../parts/Verdict";
import { Why } from "../parts/Why";
import { LockerClocks } from "../stations/tighten/LockerClocks";
import { ReadyList } from "../stations/tighten/ReadyList";
import { TakeReading } from "../stations/tighten/TakeReading";
import { useAloud, useAwake } from "./aloud";
import { Exits } from "./Exits";
import { Shell } from "./Shell";
import { ShutOut } from "./ShutOut";

/** Garage mode: one step fills the screen, for a laptop on the bench or one thumb. */
export default function Garage() {
  const tighten = useTighten();
  if (isShutOut(tighten.error)) return <ShutOut />;
  // Without a link the steps that are known stay on the screen.
  if (tighten.isPending) return <Waiting what="the steps" />;
  if (!tighten.data) return <Failed error={tighten.error} retry={() => void tighten.refetch()} />;
  return <Steps view={tighten.data} />;
}

function Steps({ view }: { view: TightenView }) {
  const { job = "" } = useParams();
  const navigate = useNavigate();
  const { toggle } = useUnits();
  const line = useWaiting(job);
  const [index, setIndex] = useState(() => firstOpen(view, line));
  const step = view.steps[index];
  const last = view.steps.length - 1;
  useShortcuts({
    arrowright: () => setIndex((i) => Math.min(last, i + 1)),
    arrowleft: () => setIndex((i) => Math.max(0, i - 1)),
    escape: () => !cameOverNetwork() && void navigate(`/jobs/${job}/tighten`),
    u: toggle,
  });
  if (!step) return <p className="p-6">This plate has no steps.</p>;
  const done = view.steps.filter((s) => s.done).length;
  return (
    <Shell
      words={`Step ${index + 1} of ${last + 1}`}
      more={`${done} done`}
      progress={[done, last + 1]}
    >
      <Holding.Provider value={step.step.title}>
        <StepSheet
          key={step.step.key}
          step={step}
          view={view}
          next={(done) => setIndex(nextOpen(view, index, done ?? []))}
        />
      </Holding.Provider>
      <footer className="grid grid-cols-2 border-t border-ink">
        <Button
          className="min-h-16! border-0 border-r! text-xl"
          disabled={index === 0}
          onClick={() => setIndex(index - 1)}
        >
          Previous
        </Button>
        <Button
          className="min-h-16! border-0 text-xl"
          disabled={index === last}
          onClick={() => setIndex(index + 1)}
        >
          Next
        </Button>
      </footer>
    </Shell>
  );
}

/** Whether what closes a step waits on this device. */
function isWaiting({ step }: StepView, line: WaitingLine): boolean {
  return line.entries.some(({ name, body }) => {
    const said = body as { step?: string; joint?: string; done?: boolean };
    if (name === "step") return said.step === step.key && said.done === true;
    const kind = name === "started" ? "start" : name === "reading" ? "full" : "";
    return step.kind === kind && said.joint === step.joint;
  });
}

/** The step that comes next, with what still waits counted as done; the last where all are. */
function firstOpen(view: TightenView, line: WaitingLine): number {
  const next = view.steps.findIndex((step) => !step.done && !isWaiting(step, line));
  return next < 0 ? view.steps.length - 1 : next;
}

/** The step to go on with: the next one that is open, past what was just done with this one. */
function nextOpen(view: TightenView, index: number, done: readonly string[]): number {
  const at = view.steps.findIndex((s, i) => i > index && !s.done && !done.includes(s.step.key));
  return at < 0 ? Math.min(view.steps.length - 1, index + 1) : at;
}

type SheetProps = { step: StepView; view: TightenView; next: (done?: readonly string[]) => void };

function StepSheet({ step, view, next }: SheetProps) {
  const { job = "" } = useParams();
  const waiting = isWaiting(step, useWaiting(job));
  const pick = usePick();
  const other = useOther();
  const { step: s } = step;
  const card = view.cards.find((c) => c.card.joint === s.joint);
  const finished = new Set(
    view.steps.filter((other) => other.step.kind === "full" && other.done).map((o) => o.step.joint),
  );
  const aloud = useAloud(
    [s.title, s.caution, s.text, s.where, step.setting && pick(step.setting)]
      .filter(Boolean)
      .join(". "),
  );
  const awake = useAwake();
  useTitle(s.title, view.plate);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <section
        aria-label="This step"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must take the keyboard
        tabIndex={0}
        className="relative grid min-h-0 flex-1 content-start gap-x-8 overflow-y-auto px-4 py-3 sm:px-6 lg:grid-cols-[1fr_24rem] lg:content-stretch"
      >
        <div className="min-w-0">
          <p className="flex items-center gap-3 text-quiet">
            <span>{card ? card.stage_label : "Task"}</span>
            {step.done && <VerdictMark verdict="sound" />}
            {step.done && <span>done</span>}
            {waiting && <span>waits on this device</span>}
            {aloud.can && (
              <Button
                tone="quiet"
                className="ml-auto"
                aria-pressed={aloud.on}
                onClick={aloud.toggle}
              >
                {aloud.on ? "Stop reading" : "Read aloud"}
              </Button>
            )}
          </p>
          <h1 className="text-4xl leading-none sm:text-6xl">{s.title}</h1>
          {s.caution && (
            <p className="mt-2 border-l-[6px] border-mind bg-sheet py-1.5 pl-3 text-lg">
              <VerdictMark verdict="mind" /> {s.caution}
            </p>
          )}
          {step === view.steps.at(-1) ? <Gate view={view} /> : <Doubts step={step} />}
          <p className="mt-2 text-lg">{s.text}</p>
          {s.where && <p className="num mt-2 text-2xl">{s.where}</p>}
          {step.setting && (
            <p className="mt-1">
              <span className="label block">set the wrench to</span>
              <Why
                figure={step.setting}
                className="block text-[4.75rem] leading-none no-underline! sm:text-[8.5rem]"
              />
              <span className="num block text-2xl text-quiet">{other(step.setting)}</span>
              {step.torque && card && card.card.setting_nm !== card.card.target_nm && (
                <span className="text-lg">
                  for {pick(step.torque)} at the screw, {card.card.setting_note}
                </span>
              )}
            </p>
          )}
          <dl className="mt-3 grid gap-x-6 gap-y-1 text-lg sm:grid-cols-2">
            <Line
              name="Tool"
              words={[s.tool, card?.card.counter_tool].filter(Boolean).join(", held with ")}
            />
            <Line name="Turn" words={s.joint ? (card?.card.turned ?? "") : ""} />
            <Line name="Hardware" words={s.hardware} />
            <Line name="Locker or grease" words={s.treatment} />
          </dl>
          {s.joint && <LockerClocks clocks={view.clocks} joint={s.joint} />}
          {s.shows_way && <Way />}
          <Kept view={view} step={s.key} />
          <Exits view={view} step={step} card={card} />
          {!awake && (
            <p className="mt-2 text-sm text-quiet">
              This browser lets no page keep the screen awake here: set it in the phone.
            </p>
          )}
        </div>
        <div className="order-first grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 lg:order-none lg:h-full lg:grid-cols-1 lg:content-start">
          <Drawing
            drawing={view.underside}
            picked={s.joint}
            done={finished}
            without={["part"]}
            numbers
            className="h-36 w-32 lg:h-72 lg:w-full"
          />
          {card && <Stack card={card} />}
        </div>
      </section>
      <div className="border-t border-rule px-4 py-2 sm:px-6">
        {s.kind === "full" && card ? (
          <TakeReading card={card} step={step} next={next} />
        ) : (
          <DoneButton step={step} view={view} next={next} />
        )}
      </div>
    </main>
  );
}

/** What bites at this step: where a hand can still act on it. */
function Doubts({ step }: { step: StepView }) {
  if (step.doubts.length === 0) return null;
  return (
    <ul aria-label="To know at this step" className="mt-2 text-lg">
      {step.doubts.map((f) => (
        <li key={f.code + f.where + f.text} data-finding={f.code} className="border-b border-rule">
          <VerdictMark verdict={f.verdict} quiet /> {f.text}{" "}
          <span className="text-quiet">{f.remedy}.</span>
        </li>
      ))}
    </ul>
  );
}

/** The last step: whether it can be ridden, and what still holds, what bites there among it. */
function Gate({ view }: { view: TightenView }) {
  return (
    <section aria-label="Ready to ride" className="mt-3 border-t border-ink pt-2 text-lg">
      <h2 className="flex flex-wrap items-center gap-x-3 text-2xl">
        {view.ready.missing.length === 0 ? "Ready to ride" : "Not ready to ride"}
        <VerdictMark verdict={view.ready.verdict} />
      </h2>
      <ReadyList ready={view.ready} mayPass={false} />
      <LockerClocks clocks={view.clocks} />
    </section>
  );
}

/** The joint's stack as it goes together: its section, and each layer in order. */
function Stack({ card }: { card: CardView }) {
  return (
    <div className="min-w-0">
      <Drawing drawing={card.section} className="hidden h-56 w-full lg:block" />
      <ol aria-label="From head to thread" className="text-base leading-snug">
        {card.layers.map((words, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two layers may be alike
          <li key={i} className="border-b border-rule">
            {words}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** Which way the plate goes, in space, on demand: it is large. */
function Way() {
  const [open, setOpen] = useState(false);
  return (
    <div className="mt-3">
      <Button className="min-h-14!" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Fold the picture" : "Which way it goes, in space"}
      </Button>
      {open && <InSpace alone className="h-72 w-full" />}
    </div>
  );
}

/** Words and pictures that were kept at this step. */
function Kept({ view, step }: { view: TightenView; step: string }) {
  const job = useJobId();
  const notes = view.notes.filter((note) => note.step === step);
  if (notes.length === 0) return null;
  return (
    <ul aria-label="Kept at this step" className="mt-3">
      {notes.map((note) => (
        <li key={note.at + note.text} className="border-b border-rule py-1">
          {note.text} <span className="text-quiet">{note.by}</span>
          {note.photo && (
            <img
              src={photoAt(job, note.photo)}
              alt={note.text}
              className="mt-1 block max-h-64 border border-ink"
            />
          )}
        </li>
      ))}
    </ul>
  );
}

function Line({ name, words }: { name: string; words: string }) {
  if (!words) return null;
  return (
    <div>
      <dt className="label">{name}</dt>
      <dd>{words}</dd>
    </div>
  );
}

/** The steps that are done with this one in one go: the same pass, not done, allowed. */
const together = (step: StepView, view: TightenView) =>
  step.step.kind === "start" || step.step.kind === "half" || step.step.kind === "verify"
    ? view.steps.filter(
        (s) =>
          s.step.kind === step.step.kind &&
          !s.done &&
          s.allowed === "" &&
          (s.step.kind !== "half" || s.step.stage === step.step.stage),
      )
    : [];
const ALL_WORDS: Record<string, string> = {
  start: "are started by hand",
  half: "are drawn to half",
  verify: "clicked at once",
};

function DoneButton({ step, view, next }: SheetProps) {
  const { job = "" } = useParams();
  const { act, trouble, busy } = useAct();
  // What waits here comes before this step: whether it may be done is judged when it arrives.
  const line = useWaiting(job);
  const waits = line.entries.length > 0;
  const shut = step.allowed !== "" && !step.done && !waits;
  const { system } = useUnits();
  const s = step.step;
  const one = (which: StepView, done: boolean) =>
    act(
      which.step.kind === "start"
        ? startJoint({
            joint: which.step.joint,
            text: "",
            system,
            override: "",
            accepted: "",
            clicked: false,
          })
        : tickStep({ step: which.step.key, done }),
      which.step.title,
    );
  const send = async () => {
    const done = await one(step, !step.done);
    if (done && !step.done) next();
  };
  const all = together(step, view).filter((which) => !isWaiting(which, line));
  const sendAll = async () => {
    for (const which of all) if (!(await one(which, true))) return;
    next(all.map((which) => which.step.key));
  };
  // A foot switch sends one of these keys.
  const go = () => !shut && void send();
  useShortcuts({ enter: go, " ": go, pagedown: go });
  if (step.done && s.kind === "start")
    return <p className="text-lg">Started by hand: in the record.</p>;
  return (
    <>
      {shut && <p className="mb-2 text-lg">{step.allowed}</p>}
      <div className="flex gap-2">
        <Button
          tone={step.done ? "plain" : "main"}
          className="min-h-16! flex-1 text-2xl"
          busy={busy}
          disabled={shut}
          onClick={() => void send()}
        >
          {step.done ? "Open this step again" : s.kind === "start" ? "Started by hand" : "Done"}
        </Button>
        {!step.done && all.length > 1 && (
          <Button className="min-h-16! flex-1" busy={busy} onClick={() => void sendAll()}>
            All {all.length} {ALL_WORDS[s.kind]}
          </Button>
        )}
      </div>
      <Trouble words={trouble} className="mt-2 text-lg" />
    </>
  );
}
