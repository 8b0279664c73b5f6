import { useState } from "react";
import { countLine } from "../../api/kit";
import type { KitLineView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";

/** Counting by finding: one more, one less, or all of it. */
export function Counter({ line, large = false }: { line: KitLineView; large?: boolean }) {
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
        className={large ? "size-16 text-3xl" : ""}
        disabled={counted === null || counted === 0}
        aria-label={`One less ${line.name} ${line.size}`}
        onClick={() => void send((counted ?? 1) - 1)}
      >
        −
      </Button>
      <output className={`num text-center ${large ? "w-16 text-4xl" : "w-10 text-2xl"}`}>
        {counted ?? "–"}
      </output>
      <Button
        className={large ? "size-16 text-3xl" : ""}
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

/** A mark for each piece: filled when it was counted, open where it lacks, crossed when extra. */
export function CountMarks({ line }: { line: KitLineView }) {
  const present = (line.state.counted ?? 0) + line.already_fitted;
  const total = Math.max(line.count, present);
  if (total > MOST_MARKS) return null;
  return (
    <svg
      viewBox={`0 0 ${total * 9} 10`}
      className="h-3"
      style={{ width: total * 9 * 1.2 }}
      aria-hidden="true"
    >
      {Array.from({ length: total }, (_, i) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: a mark is told by its place alone
          key={i}
          x={i * 9 + 1}
          y={1}
          width={7}
          height={8}
          strokeWidth={1.2}
          className={
            i >= line.count
              ? "fill-mind stroke-mind"
              : i < present
                ? "fill-ink stroke-ink"
                : "fill-none stroke-ink"
          }
        />
      ))}
    </svg>
  );
}

const MOST_MARKS = 24;
