import { type KeyboardEvent, type SVGAttributes, useRef, useState } from "react";
import type { Drawing as DrawingData } from "../api/types";

type Item = DrawingData["marks"][number];
type Props = {
  marks: readonly Item[];
  mm: number;
  picked: string;
  done: ReadonlySet<string> | undefined;
  onPick: ((ref: string) => void) | undefined;
  names: Readonly<Record<string, string>> | undefined;
  narrow: boolean;
};

const isWord = (mark: Item) => mark.kind === "word" || mark.kind === "side";
const STEPS: Record<string, number> = {
  ArrowDown: 1,
  ArrowRight: 1,
  ArrowUp: -1,
  ArrowLeft: -1,
};

/**
 * The marks of a drawing. Those that can be picked are one stop of the Tab key: arrow keys go from
 * one to the next as the eye does, from the front down and from left to right.
 */
export function Marks({ marks, mm, picked, done, onPick, names, narrow }: Props) {
  const group = useRef<SVGGElement>(null);
  const [last, setLast] = useState("");
  const parts = marks.filter((m) => !isWord(m)).sort((a, b) => a.y - b.y || a.x - b.x);
  const refs = parts.map((m) => m.ref);
  const entry = [last, picked, refs[0] ?? ""].find((ref) => refs.includes(ref));
  const go = (event: KeyboardEvent, ref: string) => {
    const step = STEPS[event.key];
    if (event.key === "Enter" || event.key === " ") onPick?.(ref);
    else if (step !== undefined) focus(refs[refs.indexOf(ref) + step]);
    else if (event.key === "Home") focus(refs[0]);
    else if (event.key === "End") focus(refs.at(-1));
    else return;
    event.preventDefault();
  };
  const focus = (ref: string | undefined) => {
    if (ref === undefined) return;
    setLast(ref);
    group.current?.querySelector<SVGGElement>(`[data-mark="${CSS.escape(ref)}"]`)?.focus();
  };
  const reach = (mark: Item): SVGAttributes<SVGGElement> | undefined =>
    onPick && {
      role: "button",
      tabIndex: mark.ref === entry ? 0 : -1,
      "aria-label": [mark.text, names?.[mark.ref]].filter(Boolean).join(", "),
      "aria-pressed": mark.ref === picked,
      onClick: () => onPick(mark.ref),
      onKeyDown: (event) => go(event, mark.ref),
      onFocus: () => setLast(mark.ref),
      className: "cursor-pointer",
    };
  return (
    <g ref={group}>
      {marks.filter(isWord).map((m) => (
        <WordMark key={`${m.kind}${m.ref}${m.text}`} mark={m} mm={mm} narrow={narrow} />
      ))}
      {parts.map((m) => (
        <Mark
          key={`${m.kind}${m.ref}${m.text}`}
          mark={m}
          mm={mm}
          picked={picked !== "" && m.ref === picked}
          done={done?.has(m.ref) ?? false}
          reach={reach(m)}
        />
      ))}
    </g>
  );
}

type MarkProps = {
  mark: Item;
  mm: number;
  picked: boolean;
  done: boolean;
  /** Only where it can be picked: how it is reached by keys. */
  reach?: SVGAttributes<SVGGElement> | undefined;
};

function Mark({ mark, mm, picked, done, reach }: MarkProps) {
  const size = mark.kind === "part" ? 8.5 * mm : 11 * mm;
  const solid = picked || mark.kind !== "part";
  return (
    <g {...(reach ?? {})} data-mark={mark.ref} data-text={mark.text}>
      <circle cx={mark.x} cy={mark.y} r={16 * mm} fill="transparent" stroke="none" />
      {mark.kind === "part" ? (
        <rect
          x={mark.x - size}
          y={mark.y - size}
          width={2 * size}
          height={2 * size}
          className={solid ? "w-thin fill-act" : "w-thin f-paper"}
        />
      ) : (
        <path
          d={`M${mark.x - size} ${mark.y}L${mark.x} ${mark.y - size}L${mark.x + size} ${mark.y}L${mark.x} ${mark.y + size}Z`}
          className={`w-thin ${done ? "fill-sound" : picked ? "fill-act" : "fill-ink"}`}
        />
      )}
      <text
        x={mark.x}
        y={mark.y + 4.4 * mm}
        fontSize={13 * mm}
        textAnchor="middle"
        className={`num bare-text ${solid ? "fill-paper" : "fill-ink"}`}
      >
        {mark.text}
      </text>
    </g>
  );
}

/** Words at the edge; a narrow drawing has room for the first of them only. */
function WordMark({ mark, mm, narrow }: { mark: Item; mm: number; narrow: boolean }) {
  const isSide = mark.kind === "side";
  const anchor =
    mark.ref === "level"
      ? "middle"
      : mark.ref === "side right" || mark.ref === "front"
        ? "start"
        : "end";
  const middle = mark.ref === "front" && mark.x === 0;
  if (middle && narrow) return null;
  return (
    <text
      x={mark.x}
      y={mark.y}
      dx={middle ? 24 * mm : 0}
      fontSize={(isSide ? 13 : 14) * mm}
      textAnchor={anchor}
      className="num fill-ink"
    >
      {narrow ? mark.text.split(" · ")[0] : mark.text}
    </text>
  );
}
