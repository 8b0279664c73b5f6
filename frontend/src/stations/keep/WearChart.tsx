import type { Schemas } from "../../api/types";
import { Why } from "../../parts/Why";

type Worn = Schemas["WornView"];
const WIDE = 420;
const HIGH = 150;
const PAD = 34;

/** Thickness over km: readings, the line to the limit, and how sure it is. */
export function WearChart({ worn }: { worn: Worn }) {
  const { points } = worn;
  return (
    <section aria-label={`Wear of the ${worn.place}`} className="py-2">
      <h3 className="text-lg">{worn.place}</h3>
      {points.length > 0 && <Chart worn={worn} />}
      <dl className="flex flex-wrap gap-x-6">
        {worn.figures.map((figure) => (
          <div key={figure.key}>
            <dt className="label">{figure.label}</dt>
            <dd>
              <Why figure={figure} className="text-xl" />
            </dd>
          </div>
        ))}
      </dl>
      {points.length === 0 && (
        <p className="text-quiet">No reading yet: note its thickness in the Log.</p>
      )}
    </section>
  );
}

function Chart({ worn }: { worn: Worn }) {
  const { points } = worn;
  const [low, likely, high] = worn.end_km;
  const first = points[0];
  const last = points[points.length - 1];
  if (!first || !last) return null;
  const span = last.km - first.km || 1000;
  const far = Math.max(last.km + span * 0.5, Math.min(likely ?? last.km, last.km + 4 * span));
  const top = Math.max(...points.map((p) => p.thickness_mm)) * 1.1;
  const x = (km: number) => PAD + ((km - first.km) / (far - first.km)) * (WIDE - 2 * PAD);
  const y = (mm: number) => HIGH - 22 - (mm / top) * (HIGH - 34);
  const to = (end: number | null | undefined) =>
    end === null || end === undefined
      ? null
      : `M${x(last.km)} ${y(last.thickness_mm)}L${x(end)} ${y(worn.limit_mm)}`;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="h-auto w-full max-w-xl overflow-hidden"
      role="img"
      aria-label={`${points.length} readings of the ${worn.place}, limit ${worn.limit_mm.toFixed(1)} mm`}
    >
      <line
        x1={PAD}
        x2={WIDE}
        y1={y(worn.limit_mm)}
        y2={y(worn.limit_mm)}
        className="stroke-blocked"
        strokeWidth="2"
        strokeDasharray="7 4"
      />
      <text x={PAD + 4} y={y(worn.limit_mm) - 5} className="fill-ink text-[13px]">
        limit
      </text>
      <line x1={PAD} x2={WIDE} y1={y(0)} y2={y(0)} className="stroke-ink" />
      {[low, high].map((end, i) => {
        const d = to(end);
        return (
          d && (
            <path
              key={i === 0 ? "low" : "high"}
              d={d}
              className="stroke-quiet"
              strokeDasharray="3 4"
              fill="none"
            />
          )
        );
      })}
      {to(likely) && (
        <path d={to(likely) ?? ""} className="stroke-act" strokeWidth="2" fill="none" />
      )}
      <path
        d={points.map((p, i) => `${i ? "L" : "M"}${x(p.km)} ${y(p.thickness_mm)}`).join("")}
        className="stroke-ink"
        strokeWidth="2"
        fill="none"
      />
      {points.map((p) => (
        <g key={p.km}>
          <circle cx={x(p.km)} cy={y(p.thickness_mm)} r="4" className="fill-ink" />
          <text x={x(p.km)} y={HIGH - 6} textAnchor="middle" className="fill-ink text-[13px]">
            {Math.round(p.km)}
          </text>
        </g>
      ))}
    </svg>
  );
}
