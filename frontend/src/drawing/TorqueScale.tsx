import type { CardView } from "../api/types";
import { usePick } from "../parts/units";

const WIDTH = 640;
const BAR = 74;

type Row = { key: string; at: number; words: string; strong: boolean };

/** Gives every label the first free line, so that none covers another. */
function stacked(rows: Row[], x: (nm: number) => number): { row: Row; line: number }[] {
  const ends: number[] = [];
  return [...rows]
    .sort((a, b) => a.at - b.at)
    .map((row) => {
      const wide = row.words.length * 6.4;
      const start = Math.min(x(row.at), WIDTH - wide);
      let line = ends.findIndex((end) => end < start - 8);
      if (line < 0) line = ends.length;
      ends[line] = start + wide;
      return { row, line };
    });
}

/** All torques of a joint on one scale: sources above the bar, limits below it. */
export function TorqueScale({ view }: { view: CardView }) {
  const pick = usePick();
  const { card } = view;
  const values = [
    ...card.limits.map((l) => l.torque_nm),
    ...card.sources.map((s) => s.torque_nm ?? 0),
    card.high_nm,
  ];
  const sorted = [...values].sort((a, b) => a - b);
  const top = Math.min(Math.max(...values), 2.2 * Math.max(card.limit_nm, card.high_nm)) * 1.06;
  const x = (nm: number) => 10 + (Math.min(nm, top) / top) * (WIDTH - 20);
  const limits: Row[] = card.limits
    .map((l, i) => ({
      key: l.name,
      at: l.torque_nm,
      words: `${l.name} ${pick(view.limits[i] ?? view.target)}${l.torque_nm > top ? ", off the scale" : ""}`,
      strong: l.governs,
    }))
    .filter((l) => sorted.length > 0 && l.at >= 0);
  const sources: Row[] = card.sources.flatMap((s, i) =>
    s.torque_nm === null || s.key === "computed limit"
      ? []
      : [
          {
            key: s.key,
            at: s.torque_nm,
            words: `${s.label} ${pick(view.sources[i] ?? view.target)}`,
            strong: s.decides,
          },
        ],
  );
  const above = stacked(sources, x);
  const below = stacked(limits, x);
  const labels = [
    ...above.map(({ row, line }) => ({ row, y: BAR - 16 - 18 * line, from: BAR - 5 })),
    ...below.map(({ row, line }) => ({ row, y: BAR + 40 + 18 * line, from: BAR + 14 })),
  ];
  const height = BAR + 34 + 18 * Math.max(1, ...below.map((b) => b.line + 1));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      className="drawing w-full"
      role="img"
      aria-label={`Torque scale of joint ${card.number}: target ${pick(view.target)}, limit ${card.governing}`}
    >
      <rect
        x={x(0)}
        y={BAR}
        width={x(card.limit_nm) - x(0)}
        height="14"
        className="fill-sound/25"
      />
      <rect
        x={x(card.limit_nm)}
        y={BAR}
        width={Math.max(0, WIDTH - 10 - x(card.limit_nm))}
        height="14"
        className="fill-blocked/20"
      />
      <rect
        x={x(card.low_nm)}
        y={BAR - 5}
        width={Math.max(2, x(card.high_nm) - x(card.low_nm))}
        height="24"
        className="fill-act"
        data-band="target"
      />
      <line
        x1={x(card.limit_nm)}
        x2={x(card.limit_nm)}
        y1={BAR - 8}
        y2={BAR + 24}
        className="stroke-blocked"
        strokeWidth="3"
      />
      {labels.map(({ row, y, from }) => (
        <line
          key={row.key}
          x1={x(row.at)}
          x2={x(row.at)}
          y1={from}
          y2={y < from ? y + 2 : y - 11}
          className="w-thin"
        />
      ))}
      {labels.map(({ row, y }) => (
        <Label key={row.key} row={row} x={x(row.at)} y={y} />
      ))}
      {view.reading?.value != null && (
        <path d={`M${x(view.reading.value)} ${BAR + 19}l7 12h-14z`} className="fill-ink" />
      )}
    </svg>
  );
}

/** Written over every leader, so that none strikes a word through. */
function Label({ row, x, y }: { row: Row; x: number; y: number }) {
  const wide = row.words.length * 6.4;
  return (
    <text
      x={Math.min(x, WIDTH - wide)}
      y={y}
      fontSize="15"
      className={`num ${row.strong ? "fill-ink" : "fill-quiet"}`}
    >
      {row.words}
    </text>
  );
}
