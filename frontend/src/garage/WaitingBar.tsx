import { useState } from "react";
import { goOn } from "../api/flush";
import { dropEntry, useWaiting, type WaitingLine, waitingInAll, waitWords } from "../api/waiting";
import { Button } from "../parts/Button";
import { VerdictMark } from "../parts/Verdict";

/** What waits on this device, and the question where it cannot simply be sent. */
export function WaitingBar({ job, flush }: { job: string; flush: () => Promise<void> }) {
  const line = useWaiting(job);
  const [open, setOpen] = useState(false);
  const count = line.entries.length;
  const all = waitingInAll();
  const elsewhere = all > count && (
    <p role="status" className="border-b-2 border-mind bg-sheet px-3 py-1 sm:px-6">
      <VerdictMark verdict="mind" /> {waitWords(all - count)} for another job: open that job here.
    </p>
  );
  if (count === 0) return elsewhere;
  return (
    <section
      aria-label="Waiting on this device"
      className="border-b-2 border-mind bg-sheet px-3 sm:px-6"
    >
      <Button
        tone="quiet"
        className="min-h-12! w-full text-left text-lg"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {waitWords(count)} on this device
      </Button>
      {open && (
        <ol className="pb-2" data-testid="waiting">
          {line.entries.map((entry) => (
            <li key={entry.key} className="flex items-center gap-3 border-t border-rule">
              <span className="flex-1">{entry.words}</span>
              <Button className="min-h-14!" onClick={() => dropEntry(job, entry.key)}>
                Drop
              </Button>
            </li>
          ))}
        </ol>
      )}
      {line.stopped && <Question job={job} line={line} flush={flush} />}
      {elsewhere}
    </section>
  );
}

type Props = { job: string; line: WaitingLine; flush: () => Promise<void> };

function Question({ job, line, flush }: Props) {
  const first = line.entries[0];
  if (!first || !line.stopped) return null;
  const conflict = line.stopped.why === "conflict";
  const again = () => {
    goOn(job);
    void flush();
  };
  const drop = () => {
    goOn(job);
    dropEntry(job, first.key);
    void flush();
  };
  return (
    <div role="alert" className="pb-2 text-lg">
      <p>
        <VerdictMark verdict="blocked" quiet />{" "}
        {conflict ? "Meanwhile on another device: " : "Not taken: "}
        <b>{line.stopped.words}</b>
      </p>
      <p>Yours: {first.words}</p>
      <div className="mt-1 flex gap-2">
        <Button tone="main" className="min-h-14! flex-1" onClick={again}>
          {conflict ? "Record mine too" : "Send it again"}
        </Button>
        <Button className="min-h-14! flex-1" onClick={drop}>
          Drop mine
        </Button>
      </div>
    </div>
  );
}
