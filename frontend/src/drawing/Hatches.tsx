/** Fills that are hatched by material; the line spacing is kept in screen pixels. */
export const HATCHED: ReadonlySet<string> = new Set([
  "aluminium",
  "steel",
  "plastic",
  "rubber",
  "cast",
  "part bare",
]);

const LINES: Record<string, { size: number; ground: string; lines: readonly string[] }> = {
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
      {Object.entries(LINES).map(([name, { size, ground, lines }]) => (
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
            <path key={d} d={d} className="stroke-hatch" strokeWidth="0.7" fill="none" />
          ))}
        </pattern>
      ))}
    </defs>
  );
}

/** The hatch of a material as a small swatch for a legend. */
export function Swatch({ name }: { name: string }) {
  return (
    <svg viewBox="0 0 22 14" className="inline-block h-3.5 w-5.5" aria-hidden="true">
      <Hatches id={`swatch-${name}`} mm={1} />
      <rect
        x="0.5"
        y="0.5"
        width="21"
        height="13"
        fill={`url(#swatch-${name}${name})`}
        className="stroke-hatch"
      />
    </svg>
  );
}
