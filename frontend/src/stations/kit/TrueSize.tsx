import { useState } from "react";
import { Button } from "../../parts/Button";

const STORED = "shield-px-per-mm";
const MM_PER_INCH = 25.4;
/** What a style sheet calls a millimetre; the screen's own may differ. */
const NOMINAL = 96 / MM_PER_INCH;
const THINGS = [
  { words: "a bank card, long side", mm: 85.6 },
  { words: "a ruler", mm: 100 },
] as const;

/** Pixels that a true millimetre takes on this screen; none until it was checked. */
export const storedScale = () => {
  const value = Number(localStorage.getItem(STORED));
  return value > 1 && value < 40 ? value : null;
};

type Props = { done: (px_per_mm: number | null) => void };

/** A thing of known length held to the screen: from it, how large a millimetre is here. */
export function RulerCheck({ done }: Props) {
  const [scale, setScale] = useState(storedScale() ?? NOMINAL);
  const [thing, setThing] = useState<(typeof THINGS)[number]>(THINGS[0]);
  const by = (px: number) => setScale((now) => Math.max(1.5, now + px / thing.mm));
  const keep = () => {
    localStorage.setItem(STORED, String(scale));
    done(scale);
  };
  return (
    <section aria-label="Ruler check" className="mt-2 border border-ink bg-sheet p-3">
      <p>
        Hold {thing.words} to the bar and make it as long. Then every part is drawn at its true
        size: lay the screw on the screen.
      </p>
      <div className="my-3 overflow-x-auto py-2">
        <div className="h-6 bg-ink" style={{ width: thing.mm * scale }} data-testid="ruler" />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => by(-10)}>Much shorter</Button>
        <Button onClick={() => by(-1)}>Shorter</Button>
        <Button onClick={() => by(1)}>Longer</Button>
        <Button onClick={() => by(10)}>Much longer</Button>
        <Button tone="quiet" onClick={() => setThing(thing === THINGS[0] ? THINGS[1] : THINGS[0])}>
          Use {thing === THINGS[0] ? THINGS[1].words : THINGS[0].words} instead
        </Button>
      </div>
      <div className="mt-2 flex gap-2">
        <Button tone="main" onClick={keep}>
          It is as long
        </Button>
        <Button
          onClick={() => {
            localStorage.removeItem(STORED);
            done(null);
          }}
        >
          Not true size
        </Button>
      </div>
    </section>
  );
}
