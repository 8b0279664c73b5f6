import { useCallback, useId, useState } from "react";
import { wordsFor } from "../../api/errors";
import { useJobId } from "../../api/job";
import { previewRevision, takeRevision } from "../../api/kit";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";

type View = Schemas["RevisionView"];

/** A revised list against the one that is there: each change is taken or refused. */
export function Revision({ close }: { close: () => void }) {
  const id = useId();
  const job = useJobId();
  const { system } = useUnits();
  const { act, trouble, busy, setTrouble } = useAct();
  const [text, setText] = useState("");
  const [view, setView] = useState<View | null>(null);
  const [take, setTake] = useState<ReadonlySet<string>>(new Set());
  const compare = useCallback(async () => {
    try {
      const found = await previewRevision(job, { text, system });
      setView(found);
      setTake(new Set());
      setTrouble("");
    } catch (error) {
      setTrouble(wordsFor(error));
    }
  }, [job, text, system, setTrouble]);
  const send = async () => {
    if (await act(takeRevision({ text, take: [...take], system }))) close();
  };
  const toggle = (key: string) => {
    const next = new Set(take);
    if (!next.delete(key)) next.add(key);
    setTake(next);
  };
  return (
    <section aria-label="Revised sheet" className="mb-3 border border-ink bg-sheet p-3">
      <label htmlFor={id} className="label block">
        the list of the new revision, a line for each part
      </label>
      <textarea
        id={id}
        className="input h-32 w-full py-2 font-mono text-sm"
        value={text}
        spellCheck={false}
        onChange={(event) => setText(event.target.value)}
      />
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={!text.trim()} onClick={() => void compare()}>
          What does it alter?
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
      {view && (
        <div className="mt-2" data-testid="revision">
          <p>
            <b>{view.changes.length} changes</b>, {view.same} lines as they were
          </p>
          {view.bad.map((words) => (
            <p key={words} className="text-blocked">
              {words}
            </p>
          ))}
          <ul>
            {view.changes.map((change) => (
              <li key={change.key} className="border-b border-rule">
                <label className="flex min-h-11 cursor-pointer items-center gap-3">
                  <input
                    type="checkbox"
                    className="size-6 accent-act"
                    checked={take.has(change.key)}
                    onChange={() => toggle(change.key)}
                  />
                  <span className="min-w-0">
                    <b>{change.kind}:</b> {change.name}
                    <span className="block text-sm">
                      {change.words}
                      {change.joints.length > 0
                        ? ` · serves joint ${change.joints.join(", ")}`
                        : ""}
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button tone="main" busy={busy} disabled={take.size === 0} onClick={() => void send()}>
              Take {take.size} of {view.changes.length}
            </Button>
            <Button
              tone="quiet"
              onClick={() => setTake(new Set(view.changes.map((change) => change.key)))}
            >
              Mark all
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}
