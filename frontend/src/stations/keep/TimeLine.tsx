import { useState } from "react";
import { photoAt } from "../../api/files";
import { useJobId } from "../../api/job";
import { voidLine } from "../../api/keep";
import type { KeepView, Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";

type Moment = Schemas["Moment"];

/** Which row a line of the record lies on. */
const ROWS = [
  { label: "Ridden", kinds: ["fitted", "counter", "ridden", "ridden anyway"], dues: [] },
  { label: "Blows", kinds: ["strike"], dues: ["blow"] },
  {
    label: "Joints",
    kinds: ["found torque", "did not move"],
    dues: ["first re-check", "re-check", "locker", "debt"],
  },
  { label: "Looked at", kinds: ["looked over", "oil change"], dues: ["wash and look", "rubber"] },
  {
    label: "Wear, parts",
    kinds: ["wear", "part replaced", "warmth", "note", "snoozed"],
    dues: ["wear"],
  },
] as const satisfies readonly {
  label: string;
  kinds: readonly string[];
  dues: readonly string[];
}[];
const DAY_MS = 86_400_000;
const AHEAD_DAYS = 90;
const FARTHEST_DAYS = 270;

/** What was and what is due on one line of days: a row for each kind, now in its place. */
export function TimeLine({ view }: { view: KeepView }) {
  const now = Date.parse(view.now);
  const past = view.moments.map((m) => Date.parse(m.at));
  // What comes up later than this is in the list above, not on the line.
  const far = now + FARTHEST_DAYS * DAY_MS;
  const ahead = view.dues
    .flatMap((d) => (d.in_days === null ? [] : [now + d.in_days * DAY_MS]))
    .filter((at) => at <= far);
  const first = Math.min(now - 30 * DAY_MS, ...past);
  const last = Math.max(now + AHEAD_DAYS * DAY_MS, ...ahead) + 14 * DAY_MS;
  const at = (ms: number) => `${((ms - first) / (last - first)) * 100}%`;
  return (
    <section aria-label="Time line" className="mt-4 min-w-0">
      <h3 className="border-b border-ink text-lg">What was, and what comes</h3>
      <div className="grid grid-cols-[5.5rem_minmax(0,1fr)] sm:grid-cols-[7rem_minmax(0,1fr)]">
        <span />
        <Axis first={first} last={last} now={now} at={at} />
        {ROWS.map(({ label, kinds, dues }) => (
          <Row key={label} label={label}>
            <span className="absolute inset-y-0 w-0.5 bg-act" style={{ left: at(now) }} />
            {view.moments
              .filter((m) => kinds.some((kind) => kind === m.kind))
              .map((m) => (
                <span
                  key={m.seq}
                  title={`${m.at.slice(0, 10)}: ${m.words}`}
                  className={`absolute top-1/2 size-3 -translate-1/2 ${m.voided ? "border border-quiet" : m.kind === "strike" ? "rotate-45 bg-blocked" : m.kind === "fitted" ? "bg-sound" : "rounded-full bg-ink"}`}
                  style={{ left: at(Date.parse(m.at)) }}
                />
              ))}
            {view.dues
              .filter((d) => dues.some((key) => d.key === key || d.key.startsWith(`${key}:`)))
              .map((d) => (
                <span
                  key={d.key}
                  title={`${d.label} ${d.left}`}
                  className={`absolute top-1/2 h-5 w-2 -translate-1/2 border-2 ${d.state === "now" ? "border-mind bg-mind" : "border-ink bg-paper"}`}
                  style={{ left: at(d.state === "now" ? now : now + (d.in_days ?? 0) * DAY_MS) }}
                  hidden={d.state !== "now" && (d.in_days === null || d.in_days > FARTHEST_DAYS)}
                />
              ))}
          </Row>
        ))}
      </div>
      <p className="mt-1 text-sm text-quiet">
        Round: told. Turned square: a blow. Upright: due, filled when it is due now. The line is
        today.
      </p>
      <Told moments={view.moments} />
    </section>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <>
      <span className="border-b border-rule py-1 text-sm leading-tight">{label}</span>
      <div className="relative h-8 border-b border-rule">{children}</div>
    </>
  );
}

type AxisProps = { first: number; last: number; now: number; at: (ms: number) => string };

/** Months that begin on the line, few enough to be read. */
function Axis({ first, last, now, at }: AxisProps) {
  const months = (last - first) / (30.4 * DAY_MS);
  const every = [1, 2, 3, 6, 12].find((n) => months / n <= 4) ?? 12;
  const marks: Date[] = [];
  const start = new Date(first);
  for (let i = 1; i <= months + 1; i++) {
    const day = new Date(Date.UTC(start.getUTCFullYear(), start.getUTCMonth() + i, 1));
    if (day.getUTCMonth() % every === 0 && day.getTime() < last) marks.push(day);
  }
  return (
    <div className="relative h-6 border-b border-rule text-sm">
      {marks.map((day) => (
        <span
          key={day.getTime()}
          className="absolute -translate-x-1/2 whitespace-nowrap text-quiet"
          style={{ left: at(day.getTime()) }}
        >
          {day.toISOString().slice(0, 7)}
        </span>
      ))}
      <span className="sr-only">today is {new Date(now).toISOString().slice(0, 10)}</span>
    </div>
  );
}

/** Every line in words, the newest first; one that was wrong is voided, and stays. */
function Told({ moments }: { moments: readonly Moment[] }) {
  const [all, setAll] = useState(false);
  const newest = [...moments].reverse();
  const shown = all ? newest : newest.slice(0, 6);
  if (moments.length === 0)
    return <p className="mt-2 text-quiet">Nothing told yet: the Log is the next sheet.</p>;
  return (
    <>
      <ol className="mt-2" aria-label="What was told">
        {shown.map((moment) => (
          <Line key={moment.seq} moment={moment} />
        ))}
      </ol>
      {newest.length > 6 && (
        <Button tone="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Fold" : `and ${newest.length - 6} more`}
        </Button>
      )}
    </>
  );
}

function Line({ moment }: { moment: Moment }) {
  const { act, trouble, busy } = useAct();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const job = useJobId();
  return (
    <li className="border-b border-rule py-0.5" data-told={moment.kind}>
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="num text-quiet">{moment.at.slice(0, 10)}</span>
        <span className={`min-w-0 flex-1 ${moment.voided ? "line-through" : ""}`}>
          {moment.words}
          {moment.photo && (
            <img
              src={photoAt(job, moment.photo)}
              alt={`Kept with: ${moment.words}`}
              loading="lazy"
              className="my-1 block max-h-48 border border-ink"
            />
          )}
        </span>
        {moment.by && <span className="text-quiet">{moment.by}</span>}
        {moment.voided && <span className="text-quiet">voided: {moment.voided}</span>}
        {moment.may_void && (
          <Button tone="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            Void<span className="sr-only">: {moment.words}</span>
          </Button>
        )}
      </div>
      {open && moment.may_void && (
        <div className="flex flex-wrap items-end gap-2 pb-1">
          <Entry label="why it does not count" value={reason} onChange={setReason} wide />
          <Button
            busy={busy}
            disabled={reason.trim().length < 3}
            onClick={() => void act(voidLine({ seq: moment.seq, reason }))}
          >
            It does not count
          </Button>
        </div>
      )}
      <Trouble words={trouble} />
    </li>
  );
}
