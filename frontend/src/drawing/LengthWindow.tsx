import type { JointDetail } from "../api/types";

const WIDTH = 640;
const LINE = 46;

/** A length's verdict in words: one that fits may do so on numbers that nobody entered. */
const saidOf = (verdict: string) => (verdict === "assumed" ? "sound, on assumed numbers" : verdict);

/** The window of true lengths as a scale, with the standard lengths on it. */
export function LengthWindow({ joint }: { joint: JointDetail }) {
  const lengths = joint.lengths.map((l) => l.length_mm);
  const from = Math.min(...lengths, joint.needed_mm ?? lengths[0] ?? 0) - 3;
  const to = Math.max(...lengths, joint.allowed_mm ?? 0) + 3;
  const x = (mm: number) => 12 + ((mm - from) / (to - from)) * (WIDTH - 24);
  const open = joint.allowed_mm === null;
  const assumed = joint.lengths.some((l) => l.verdict === "assumed");
  const words = joint.lengths.map((l) => `${l.length_mm} mm ${saidOf(l.verdict)}`).join("; ");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 84`}
      className="drawing w-full"
      role="img"
      aria-label={`Screw lengths on the window: ${words}`}
      data-testid="window"
    >
      {joint.shaded_mm.map(({ start_mm: start, end_mm: end }) => (
        <rect
          key={start}
          x={x(start)}
          y={LINE - 16}
          width={x(end) - x(start)}
          height="32"
          className="fill-sound/20 stroke-sound"
          strokeDasharray={open || assumed ? "4 3" : undefined}
          data-from={start}
          data-to={end}
        />
      ))}
      <line x1="12" x2={WIDTH - 12} y1={LINE} y2={LINE} className="w-thin" />
      {joint.lengths.map((l) => (
        <Tick key={l.length_mm} at={x(l.length_mm)} mark={l} />
      ))}
    </svg>
  );
}

function Tick({ at, mark }: { at: number; mark: JointDetail["lengths"][number] }) {
  const fits = mark.verdict === "sound" || mark.verdict === "assumed";
  return (
    <g data-length={mark.length_mm} data-verdict={mark.verdict}>
      <line x1={at} x2={at} y1={LINE - 8} y2={LINE + 8} className={fits ? "w-section" : "w-thin"} />
      {mark.in_hand && (
        <path d={`M${at - 7} 12h14l-7 13z`} className={fits ? "fill-act" : "fill-blocked"} />
      )}
      {mark.chosen && (
        <circle
          cx={at}
          cy={LINE}
          r="6"
          className="f-none stroke-sound"
          strokeWidth="2.4"
          strokeDasharray={mark.verdict === "assumed" ? "3 2" : undefined}
        />
      )}
      <text
        x={at}
        y={LINE + 26}
        textAnchor="middle"
        fontSize="16"
        className={`num ${fits ? "fill-ink" : "fill-quiet"}`}
      >
        {mark.length_mm}
      </text>
    </g>
  );
}
