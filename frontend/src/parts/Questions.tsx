import { type ReactNode, useEffect, useRef, useState } from "react";
import { Button } from "./Button";
import { Trouble } from "./Trouble";
import { useWide } from "./useWide";

export type Question = { key: string; title: string; ask: ReactNode; wide?: boolean };
type Props = {
  questions: readonly Question[];
  /** What the last button does, and what it says meanwhile. */
  last: string;
  lastBusy: string;
  send: () => void;
  busy: boolean;
  trouble: string;
  children?: ReactNode;
};

/** Questions on one panel where there is room, else one on a screen. */
export function Questions({ questions, last, lastBusy, send, busy, trouble, children }: Props) {
  const wide = useWide();
  const [at, setAt] = useState(0);
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (at > 0) title.current?.focus();
  }, [at]);
  const shown = wide ? questions : questions.slice(at, at + 1);
  const more = !wide && at < questions.length - 1;
  const end = (
    <>
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {!wide && at > 0 && <Button onClick={() => setAt(at - 1)}>Back</Button>}
        {more ? (
          <Button tone="main" onClick={() => setAt(at + 1)}>
            Next
          </Button>
        ) : (
          <Button tone="main" busy={busy} onClick={send}>
            {busy ? lastBusy : last}
          </Button>
        )}
        {!wide && (
          <span className="text-quiet">
            {at + 1} of {questions.length}
          </span>
        )}
        {children}
      </div>
    </>
  );
  return (
    <div className="grid gap-x-6 gap-y-3 lg:grid-cols-6">
      {shown.map((question, i) => (
        <section
          key={question.key}
          aria-label={question.title}
          className={question.wide ? "lg:col-span-6" : "lg:col-span-2"}
        >
          <h3 ref={title} tabIndex={-1} className="mb-1 border-b border-ink text-lg">
            {question.title}
          </h3>
          {question.ask}
          {i === shown.length - 1 && end}
        </section>
      ))}
    </div>
  );
}
