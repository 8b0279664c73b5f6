import { useState } from "react";
import type { KitLineView } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { VerdictMark } from "../../parts/Verdict";
import { LineState, LineWords, LookAlikes } from "./BenchLine";
import { Counter, CountMarks } from "./Counter";

const WIDEST_PX = 340;

type Props = { lines: readonly KitLineView[]; scale: number | null; close: () => void };

/** One line at a time, large: for a phone beside the bag. */
export function OneByOne({ lines, scale, close }: Props) {
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      lines.findIndex((line) => line.state.counted === null),
    ),
  );
  const line = lines[Math.min(at, lines.length - 1)];
  if (!line) return null;
  const drawn = line.drawing;
  const px = drawn ? (scale ?? Math.min(8, WIDEST_PX / drawn.width)) : 1;
  return (
    <section aria-label="One line at a time" className="mt-2 border-2 border-ink bg-sheet p-3">
      <p className="label">
        line {at + 1} of {lines.length}
        {scale ? " · at its true size" : ""}
      </p>
      <div className="flex min-h-40 items-center justify-center overflow-x-auto">
        {drawn ? (
          <Drawing drawing={drawn} scale={px} className="shrink-0" />
        ) : (
          <p className="text-quiet">Not drawn: the list does not say its size.</p>
        )}
      </div>
      <p className="num text-4xl">{line.size || line.kind}</p>
      <p className="text-xl">{line.name}</p>
      <LineWords line={line} />
      <LookAlikes line={line} />
      <div className="my-3 flex flex-wrap items-center gap-4">
        <Counter line={line} large />
        <span>
          <span className="num text-2xl">of {line.count}</span>
          <CountMarks line={line} />
        </span>
      </div>
      <p className="flex items-center gap-2">
        <VerdictMark verdict={line.state.verdict} quiet />
        <span>
          <LineState line={line} />
        </span>
      </p>
      <div className="mt-3 grid grid-cols-[1fr_1fr_auto] gap-2">
        <Button className="min-h-14" disabled={at === 0} onClick={() => setAt(at - 1)}>
          Line before
        </Button>
        <Button
          tone="main"
          className="min-h-14"
          disabled={at >= lines.length - 1}
          onClick={() => setAt(at + 1)}
        >
          Next line
        </Button>
        <Button onClick={close}>All lines</Button>
      </div>
    </section>
  );
}
