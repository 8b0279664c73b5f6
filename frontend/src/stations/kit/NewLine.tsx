import { useState } from "react";
import { addLine } from "../../api/kit";
import type { KitView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import type { Found } from "./Identify";

/** A line of one's own. */
export function NewLine({ view, seen, close }: { view: KitView; seen: Found; close: () => void }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [line, setLine] = useState({
    kind: "screw",
    name: "",
    thread: seen.thread || "M8",
    length: seen.length,
    head: "ISO 4762",
    grade: "8.8",
    count: "1",
  });
  const set = (part: Partial<typeof line>) => setLine({ ...line, ...part });
  const send = async () => {
    const done = await act(addLine({ ...line, system }));
    if (done) close();
  };
  return (
    <section className="mt-2 border border-ink bg-sheet p-3" aria-label="New kit line">
      <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-7">
        <Choice
          label="what"
          value={line.kind}
          options={view.kinds}
          onChange={(kind) => set({ kind })}
        />
        <Entry label="name" value={line.name} onChange={(name) => set({ name })} onEnter={send} />
        <Choice
          label="thread"
          value={line.thread}
          options={["", ...view.threads]}
          onChange={(thread) => set({ thread })}
        />
        <Entry
          label="length"
          value={line.length}
          onChange={(length) => set({ length })}
          unit={system === "us" ? "in" : "mm"}
          numeric
          onEnter={send}
        />
        <Choice
          label="head"
          value={line.head}
          options={["", ...view.heads]}
          onChange={(head) => set({ head })}
        />
        <Choice
          label="grade"
          value={line.grade}
          options={["", ...view.grades]}
          onChange={(grade) => set({ grade })}
        />
        <Entry
          label="count"
          value={line.count}
          onChange={(count) => set({ count })}
          numeric
          onEnter={send}
        />
      </div>
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-3 flex gap-2">
        <Button tone="main" busy={busy} onClick={() => void send()}>
          Add this line
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
    </section>
  );
}
