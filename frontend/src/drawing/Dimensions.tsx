import type { Drawing as DrawingData } from "../api/types";
import { usePick } from "../parts/units";

type Item = DrawingData["dimensions"][number];
type Props = { items: readonly Item[]; mm: number; drawing: DrawingData };

/** Dimension lines with ends; text beside a line that is too short for it. */
export function Dimensions({ items, mm, drawing }: Props) {
  return (
    <>
      {[...items]
        .reverse()
        .map((item) =>
          item.x1 === item.x2 ? (
            <Upright key={item.label} item={item} mm={mm} drawing={drawing} />
          ) : (
            <Level key={item.label} item={item} mm={mm} drawing={drawing} />
          ),
        )}
    </>
  );
}

function Level({ item, mm, drawing }: { item: Item; mm: number; drawing: DrawingData }) {
  const pick = usePick();
  const [left, right] = item.x1 < item.x2 ? [item.x1, item.x2] : [item.x2, item.x1];
  const y = item.y1 + item.offset;
  const words = `${item.label} ${pick(item)}`;
  const wide = words.length * 6.2 * mm;
  const end = drawing.x + drawing.width;
  const inside = right - left > wide + 8 * mm;
  const after = right + 8 * mm + wide < end;
  const before = left - 8 * mm - wide > drawing.x;
  // Where there is room for it nowhere beside the line it stands above, pushed into the drawing.
  const above = inside || !(after || before);
  const middle = Math.min(Math.max((left + right) / 2, drawing.x + wide / 2), end - wide / 2);
  const x = above ? middle : after ? right + 6 * mm : left - 6 * mm;
  const anchor = above ? "middle" : after ? "start" : "end";
  const tone = item.verdict === "blocked" ? "stroke-blocked!" : "";
  const tick = 4 * mm;
  return (
    <g data-dimension={item.label}>
      <path
        className={`w-dimension f-none ${tone}`}
        d={`M${left} ${item.y1}V${y + Math.sign(item.offset) * tick}M${right} ${item.y2}V${y + Math.sign(item.offset) * tick}M${left} ${y}H${right}M${left - tick} ${y + tick}L${left + tick} ${y - tick}M${right - tick} ${y + tick}L${right + tick} ${y - tick}`}
      />
      <text
        x={x}
        y={above ? y - 3 * mm : y + 4 * mm}
        fontSize={13 * mm}
        textAnchor={anchor}
        className={`num ${item.verdict === "blocked" ? "fill-blocked" : "fill-act"}`}
      >
        {words}
      </text>
    </g>
  );
}

function Upright({ item, mm, drawing }: { item: Item; mm: number; drawing: DrawingData }) {
  const pick = usePick();
  const tick = 4 * mm;
  const x = item.x1 + item.offset;
  const top = Math.min(item.y1, item.y2);
  const left = x > drawing.x + drawing.width / 2;
  const bottom = Math.max(item.y1, item.y2);
  const words = `${item.label} ${pick(item)}`;
  const middle = (top + bottom) / 2;
  // Along its line where it fits, as on a shop drawing; else beside it.
  const at = x + 20 * mm < drawing.x + drawing.width ? x + 14 * mm : x - 5 * mm;
  const along = bottom - top > (words.length * 6.6 + 12) * mm;
  return (
    <g data-dimension={item.label}>
      <path
        className="w-dimension f-none"
        d={`M${x} ${top}V${bottom}M${x - tick} ${top + tick}L${x + tick} ${top - tick}M${x - tick} ${bottom + tick}L${x + tick} ${bottom - tick}`}
      />
      {along ? (
        <text
          x={at}
          y={middle}
          textAnchor="middle"
          transform={`rotate(-90 ${at} ${middle})`}
          fontSize={13 * mm}
          className="num fill-act"
        >
          {words}
        </text>
      ) : (
        <text
          x={left ? x - 8 * mm : x + 8 * mm}
          textAnchor={left ? "end" : "start"}
          y={middle + 5 * mm}
          fontSize={14 * mm}
          className="num fill-act"
        >
          {words}
        </text>
      )}
    </g>
  );
}
