import { countAll } from "../../api/kit";
import type { KitLineView } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Counter, CountMarks } from "./Counter";
import { LineEditor } from "./LineEditor";

type LineProps = {
  line: KitLineView;
  scale: number;
  open: boolean;
  toggle: (key: string) => void;
};

/** Where a line stands, in words: short, extra, look-alikes, what is not known of it. */
export function LineState({ line }: { line: KitLineView }) {
  return (
    <>
      <span className="font-semibold">
        {line.state.state}
        {line.state.missing > 0 ? `: ${line.state.missing} lacking` : ""}
        {line.state.extra > 0 ? `: ${line.state.extra} more` : ""}
      </span>
      {line.state.findings
        .filter((f) => f.verdict === "not known" && f.code !== "not counted")
        .map((f) => (
          <span key={f.code} className="block text-sm">
            {f.text}
          </span>
        ))}
    </>
  );
}

/** Another line that must not be swapped with this one. */
export function LookAlikes({ line }: { line: KitLineView }) {
  return line.alike.map((other) => (
    <span key={other.key} className="block border-l-4 border-mind pl-1.5 text-sm">
      Not the same as <b>{other.name}</b>: {other.words}
    </span>
  ));
}

/** What a line is, beside its size: kind, head, grade, bag, where it goes. */
export function LineWords({ line }: { line: KitLineView }) {
  const needed = [...new Set(line.state.needed_by)];
  const words = [
    line.kind,
    line.head,
    line.grade,
    line.bag && `bag ${line.bag}`,
    line.came !== "loose" && line.came,
    !line.applies && `only if ${line.when}: not on this bike`,
    needed.length > 0 && `for joint ${needed.join(", ")}`,
  ];
  return <span className="label block">{words.filter(Boolean).join(" · ")}</span>;
}

/** One line on the bench: drawn to scale, counted, judged. */
export function BenchLine({ line, scale, open, toggle }: LineProps) {
  return (
    <li
      className={`border-b border-rule py-1.5 ${line.applies ? "" : "text-quiet"}`}
      data-line={line.key}
    >
      <div className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 lg:grid-cols-[13rem_6.5rem_1fr_7.5rem_12rem_11rem_5rem]">
        <span className="col-span-2 flex min-w-0 items-center overflow-x-auto lg:col-span-1">
          {line.drawing && <Drawing drawing={line.drawing} scale={scale} className="shrink-0" />}
        </span>
        <span className="num text-2xl">{line.size || line.kind}</span>
        <span className="col-span-2 min-w-0 lg:col-span-1">
          <span className="block">{line.name}</span>
          <LineWords line={line} />
          <LookAlikes line={line} />
        </span>
        <span>
          <span className="num text-2xl">{line.count}</span>{" "}
          <span className="label">
            on the sheet{line.already_fitted ? `, ${line.already_fitted} fitted` : ""}
          </span>
          <CountMarks line={line} />
        </span>
        <Counter line={line} />
        <span className="flex items-center gap-2">
          <VerdictMark verdict={line.state.verdict} quiet />
          <span>
            <LineState line={line} />
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

type GroupProps = {
  title: string;
  lines: readonly KitLineView[];
  scale: number;
  open: string;
  toggle: (key: string) => void;
};

/** Lines that lie together, with one act for all of them. */
export function BenchGroup({ title, lines, scale, open, toggle }: GroupProps) {
  const { act, busy } = useAct();
  const left = lines.filter((line) => line.applies && line.state.counted === null);
  return (
    <section aria-label={title || "Kit lines"} className="mt-3">
      {title && (
        <div className="flex items-center border-b border-ink">
          <h3 className="flex-1 text-lg">{title}</h3>
          {left.length > 0 && (
            <Button
              tone="quiet"
              busy={busy}
              onClick={() => void act(countAll(left.map((line) => line.key)))}
            >
              All of it is there
            </Button>
          )}
        </div>
      )}
      <ul aria-label={title ? `Lines of ${title}` : "Kit lines"}>
        {lines.map((line) => (
          <BenchLine
            key={line.key}
            line={line}
            scale={scale}
            open={open === line.key}
            toggle={toggle}
          />
        ))}
      </ul>
    </section>
  );
}
