import { useId } from "react";
import type { Drawing as DrawingData } from "../api/types";
import { usePick } from "../parts/units";
import { Dimensions } from "./Dimensions";
import { HATCHED, Hatches } from "./Hatches";
import { Marks } from "./Marks";
import { useScale } from "./useScale";

type Props = {
  drawing: DrawingData;
  /** Marks and shapes that can be chosen, and the one that is. */
  onPick?: (ref: string) => void;
  picked?: string;
  /** What the marks stand for, for those who hear the drawing. */
  names?: Readonly<Record<string, string>>;
  done?: ReadonlySet<string>;
  /** Kinds of marks to leave out. */
  without?: readonly string[];
  /** Show joint numbers instead of the order of work. */
  numbers?: boolean;
  className?: string;
  /** Pixels that a millimetre takes, where several drawings stand beside each other. */
  scale?: number;
};

const NARROW_PX = 420;

type Shape = DrawingData["paths"][number];

const path = (points: Shape["points"], closed: boolean) =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${x} ${y}`).join("") + (closed ? "Z" : "");

/** A drawing of the core, to scale: only placed on the page, never computed here. */
export function Drawing(props: Props) {
  const {
    drawing,
    onPick,
    picked = "",
    names,
    done,
    without = [],
    numbers,
    className = "",
    scale,
  } = props;
  const id = useId();
  const pick = usePick();
  const { ref, mm } = useScale(drawing.width, drawing.height);
  // Where there is little room, dimensions tell the scale, and words are cut to their first part.
  const narrow = drawing.width / mm < NARROW_PX;
  const fill = (name: string) =>
    HATCHED.has(name)
      ? { fill: `url(#${id}${name.replace(" ", "-")})` }
      : { className: `f-${name.replace(" ", "-")}` };
  const shape = (s: { weight: string; fill: string; ref: string }) => {
    const own = fill(s.fill);
    const chosen = picked !== "" && s.ref === picked ? " stroke-act!" : "";
    return {
      ...own,
      className: `${own.className ?? ""} w-${s.weight}${chosen}`,
      ...(onPick && s.ref ? { onClick: () => onPick(s.ref) } : {}),
      "data-ref": s.ref || undefined,
    };
  };
  return (
    <svg
      ref={ref}
      viewBox={`${drawing.x} ${drawing.y} ${drawing.width} ${drawing.height}`}
      className={`drawing ${className}`}
      style={scale ? { width: drawing.width * scale, height: drawing.height * scale } : undefined}
      role={onPick ? "group" : "img"}
      aria-label={onPick ? `${drawing.title}; arrow keys go from part to part` : drawing.title}
    >
      <Hatches id={id} mm={mm} />
      {drawing.paths.map((p, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the core's order is the identity
        <path key={i} d={path(p.points, p.closed)} {...shape(p)} />
      ))}
      {drawing.circles.map((c, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the core's order is the identity
        <circle key={i} cx={c.cx} cy={c.cy} r={c.r} {...shape(c)} />
      ))}
      <Dimensions items={drawing.dimensions} mm={mm} drawing={drawing} />
      <Marks
        marks={drawing.marks
          .filter((m) => !without.includes(m.kind))
          .map((m) => (numbers && m.alt ? { ...m, text: m.alt } : m))}
        mm={mm}
        picked={picked}
        done={done}
        onPick={onPick}
        names={names}
        narrow={narrow}
      />
      {drawing.scale_bar_mm > 0 && !(narrow && drawing.dimensions.length > 0) && (
        <ScaleBar drawing={drawing} mm={mm} words={pick(scaleWords(drawing.scale_bar_mm))} />
      )}
    </svg>
  );
}

/** The bar's length is the core's; both ways to say it are fixed words. */
const scaleWords = (bar: number) => ({ metric: `${bar} mm`, us: `${bar} mm bar` });

function ScaleBar({ drawing, mm, words }: { drawing: DrawingData; mm: number; words: string }) {
  const x = drawing.x + 12 * mm;
  const y = drawing.y + drawing.height - 10 * mm;
  const half = drawing.scale_bar_mm / 2;
  return (
    <g>
      <rect x={x} y={y - 3 * mm} width={half} height={4 * mm} className="fill-ink" />
      <rect x={x + half} y={y - 3 * mm} width={half} height={4 * mm} className="w-thin f-paper" />
      <text x={x} y={y - 6 * mm} fontSize={12 * mm} className="num fill-ink">
        {words}
      </text>
    </g>
  );
}
