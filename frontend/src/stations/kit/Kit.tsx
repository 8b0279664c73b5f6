import { useState } from "react";
import { useJobId } from "../../api/job";
import { addLine, countLine, removeLine, useKit } from "../../api/kit";
import type { KitLineView, KitView } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { type Found, Identify } from "./Identify";
import { PasteList } from "./PasteList";
import { commonScale } from "./scale";

/** Kit: what the sheet lists, counted on the bench. */
export function Kit() {
  const kit = useKit();
  const job = useJobId();
  const [open, setOpen] = useState("");
  const [seen, setSeen] = useState<Found>({ thread: "", length: "" });
  if (kit.isPending) return <Waiting what="the kit" />;
  if (kit.isError) return <Failed error={kit.error} retry={() => void kit.refetch()} />;
  const view = kit.data;
  return (
    <div className="px-3 py-3 sm:px-5">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-xl">Hardware of the {view.plate}, as its sheet lists it</h2>
        <a
          className="inline-flex min-h-11 items-center border border-act px-3.5 font-semibold text-act"
          href={`/api/jobs/${job}/kit/list.csv`}
          download="kit-list.csv"
        >
          Save the list as CSV
        </a>
        <Button onClick={() => setOpen(open === "identify" ? "" : "identify")}>
          Identify a screw
        </Button>
        <Button onClick={() => setOpen(open === "paste" ? "" : "paste")}>Paste a list</Button>
        <Button onClick={() => setOpen(open === "new" ? "" : "new")}>Add a line</Button>
      </div>
      {open === "paste" && <PasteList close={() => setOpen("")} />}
      {open === "identify" && (
        <Identify
          forms={view.head_forms}
          close={() => setOpen("")}
          onNew={(found) => {
            setSeen(found);
            setOpen("new");
          }}
        />
      )}
      {open === "new" && <NewLine view={view} seen={seen} close={() => setOpen("")} />}
      {view.lines.length === 0 && <Empty>No line yet. Add what the sheet lists.</Empty>}
      <ul className="mt-2" aria-label="Kit lines">
        {view.lines.map((line) => (
          <Line
            key={line.key}
            line={line}
            scale={commonScale(view.lines, WIDEST_PX)}
            open={open === line.key}
            toggle={setOpen}
          />
        ))}
      </ul>
      {view.buy.length > 0 && (
        <section className="mt-4 border border-ink bg-sheet p-3" aria-label="To buy">
          <h3 className="text-lg">Asked for by a joint, in no line of the sheet</h3>
          <ul>
            {view.buy.map((need) => (
              <li key={`${need.joint}${need.length_mm}`}>
                {need.thread} × {need.length_mm} {need.head} for joint {need.joint}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

const WIDEST_PX = 150;

type LineProps = {
  line: KitLineView;
  scale: number;
  open: boolean;
  toggle: (key: string) => void;
};

function Line({ line, scale, open, toggle }: LineProps) {
  const needed = line.state.needed_by;
  return (
    <li
      className={`border-b border-rule py-1.5 ${line.applies ? "" : "text-quiet"}`}
      data-line={line.key}
    >
      <div className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 md:grid-cols-[9.75rem_6rem_1fr_8rem_11.5rem_11rem_5rem]">
        <span className="col-span-2 flex min-w-0 items-center md:col-span-1">
          {line.drawing && <Drawing drawing={line.drawing} scale={scale} />}
        </span>
        <span className="num text-2xl">{line.size || line.kind}</span>
        <span className="min-w-0">
          <span className="block">{line.name}</span>
          <span className="label block">
            {[line.kind, line.head, line.grade].filter(Boolean).join(" · ")}
            {line.applies ? "" : ` · only if ${line.when}: not on this bike`}
            {needed.length > 0 ? ` · for joint ${needed.join(", ")}` : ""}
          </span>
        </span>
        <span>
          <span className="num text-2xl">{line.count}</span>{" "}
          <span className="label">
            on the sheet{line.already_fitted ? `, ${line.already_fitted} fitted` : ""}
          </span>
        </span>
        <Counter line={line} />
        <span className="flex items-center gap-2">
          <VerdictMark verdict={line.state.verdict} quiet />
          <span className="font-semibold">
            {line.state.state}
            {line.state.missing > 0 ? `: ${line.state.missing} lacking` : ""}
            {line.state.extra > 0 ? `: ${line.state.extra} more` : ""}
            {line.state.findings
              .filter((f) => f.verdict === "not known" && f.code !== "not counted")
              .map((f) => (
                <span key={f.code} className="block text-sm font-normal">
                  {f.text}
                </span>
              ))}
          </span>
        </span>
        <Button
          tone="quiet"
          onClick={() => toggle(open ? "" : line.key)}
          aria-expanded={open}
          aria-label={`${open ? "Close" : "Change"} ${line.name}`}
        >
          {open ? "Close" : "Change"}
        </Button>
      </div>
      {open && <LineEditor line={line} />}
    </li>
  );
}

function Counter({ line }: { line: KitLineView }) {
  const { act, trouble } = useAct();
  const stored = line.state.counted;
  // Quick presses count on at once; the stored count takes over when it is back.
  const [ahead, setAhead] = useState<number | null>(null);
  const counted = ahead ?? stored;
  const all = line.count - line.already_fitted;
  const send = async (value: number) => {
    setAhead(value);
    await act(countLine({ line: line.key, text: String(value) }));
    setAhead((now) => (now === value ? null : now));
  };
  return (
    <fieldset className="flex items-center">
      <legend className="sr-only">Counted {line.name}</legend>
      <Button
        disabled={counted === null || counted === 0}
        aria-label={`One less ${line.name} ${line.size}`}
        onClick={() => void send((counted ?? 1) - 1)}
      >
        −
      </Button>
      <output className="num w-10 text-center text-2xl">{counted ?? "–"}</output>
      <Button
        aria-label={`One more ${line.name} ${line.size}`}
        onClick={() => void send((counted ?? 0) + 1)}
      >
        +
      </Button>
      {counted === null && (
        <Button tone="quiet" className="whitespace-nowrap" onClick={() => void send(all)}>
          all {all}
        </Button>
      )}
      <Trouble words={trouble} className="text-sm" />
    </fieldset>
  );
}

function LineEditor({ line }: { line: KitLineView }) {
  const { act, trouble } = useAct();
  return (
    <div className="mt-2 border border-ink bg-sheet p-3">
      <div className="grid grid-cols-2 gap-3 md:grid-cols-7">
        {[...line.fields, ...line.more].map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Button className="mt-2" onClick={() => void act(removeLine(line.key))}>
        Take this line out
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}

function NewLine({ view, seen, close }: { view: KitView; seen: Found; close: () => void }) {
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
