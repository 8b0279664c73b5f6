/** Fills that are hatched by material; the line spacing is kept in screen pixels. */
export const HATCHED: ReadonlySet<string> = new Set([
  "aluminium",
  "steel",
  "plastic",
  "rubber",
  "cast",
  "part bare",
  "band 1",
  "band 2",
  "band 3",
  "band 4",
  "band 5",
]);

type Hatch = { size: number; ground: string; lines: readonly string[]; stroke?: string };

/** Bands of a map: denser the graver, so that they part in sunlight and on a bad print too. */
const BANDS: Record<string, Hatch> = {
  "band 1": {
    size: 6,
    ground: "f-band-1",
    lines: ["M0 6L6 0", "M0 0L6 6"],
    stroke: "stroke-sheet",
  },
  "band 2": { size: 6, ground: "f-band-2", lines: ["M0 6L6 0"], stroke: "stroke-sheet" },
  "band 3": { size: 9, ground: "f-band-3", lines: ["M0 0L9 9"], stroke: "stroke-ink" },
  "band 4": { size: 13, ground: "f-band-4", lines: ["M0 13L13 0"], stroke: "stroke-ink" },
  "band 5": { size: 11, ground: "f-band-5", lines: ["M5 5h1.2"], stroke: "stroke-ink" },
};

const LINES: Record<string, Hatch> = {
  ...BANDS,
  aluminium: { size: 7, ground: "fill-ground-aluminium", lines: ["M0 7L7 0"] },
  steel: { size: 8, ground: "fill-ground-steel", lines: ["M0 8L8 0", "M-1 6L6 -1M6 9L9 6"] },
  plastic: { size: 8, ground: "fill-ground-plastic", lines: ["M0 0L8 8", "M0 8L8 0"] },
  rubber: { size: 6, ground: "fill-ground-rubber", lines: ["M1 3h2", "M4 0h2"] },
  "part bare": { size: 9, ground: "fill-paper", lines: ["M0 9L9 0", "M0 8L8 0"] },
  cast: { size: 10, ground: "fill-ground-cast", lines: ["M0 10L4 6", "M6 4L10 0"] },
};

/** Pattern definitions of one drawing. */
export function Hatches({ id, mm }: { id: string; mm: number }) {
  return (
    <defs>
      {Object.entries(LINES).map(([name, { size, ground, lines, stroke }]) => (
        <pattern
          key={name}
          id={`${id}${name.replace(" ", "-")}`}
          width={size}
          height={size}
          patternUnits="userSpaceOnUse"
          patternTransform={`scale(${mm})`}
        >
          <rect width={size} height={size} className={ground} />
          {lines.map((d) => (
            <path
              key={d}
              d={d}
              className={stroke ?? "stroke-hatch"}
              strokeWidth="0.7"
              fill="none"
            />
          ))}
        </pattern>
      ))}
    </defs>
  );
}

/** A fill as a small swatch for a legend, hatched where the drawing is. */
export function Swatch({ name }: { name: string }) {
  const key = name.replace(" ", "-");
  const own = HATCHED.has(name)
    ? { fill: `url(#swatch-${key}${key})`, className: "stroke-hatch" }
    : { className: `f-${key} stroke-hatch` };
  return (
    <svg viewBox="0 0 22 14" className="inline-block h-3.5 w-5.5" aria-hidden="true">
      <Hatches id={`swatch-${key}`} mm={1} />
      <rect x="0.5" y="0.5" width="21" height="13" {...own} />
    </svg>
  );
}
