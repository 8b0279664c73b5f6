import { useState } from "react";
import { noteFound } from "../../api/keep";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { usePick, useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { WithKeep } from "./withKeep";

type Row = Schemas["RecheckView"];

/** Every joint at the re-check: how it was found, over time, against its band. */
export function RecheckSheet() {
  return (
    <WithKeep>
      {(view) => (
        <div className="px-3 py-3 sm:px-5">
          <h2 className="text-xl">
            {view.fitted
              ? "Cold, one after the other: what does it take to move it?"
              : "The plate is not fitted yet: nothing to re-check"}
          </h2>
          {view.fitted && <Cautions texts={view.cautions} />}
          <ol className="mt-2 grid gap-x-8 lg:grid-cols-2" aria-label="Joints to re-check">
            {view.joints.map((row) => (
              <Line key={row.recheck.joint.key} row={row} fitted={view.fitted} />
            ))}
          </ol>
        </div>
      )}
    </WithKeep>
  );
}

function Line({ row, fitted }: { row: Row; fitted: boolean }) {
  const { recheck } = row;
  const pick = usePick();
  return (
    <li className="border-t border-rule py-2" data-recheck={recheck.joint.key}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="num text-2xl">{recheck.joint.number}</span>
        <span className="text-lg">{recheck.joint.name}</span>
        <span className="flex-1 text-right">
          <span className="label">target</span> <Why figure={recheck.target} className="text-lg" />
        </span>
      </div>
      <p>
        <VerdictMark verdict={recheck.verdict} /> {recheck.words}
        {recheck.found && <b className="num"> {pick(recheck.found)}</b>}
      </p>
      {row.points.length > 0 && <Chart row={row} />}
      {fitted && <Found joint={recheck.joint} target={recheck.target} />}
    </li>
  );
}

function Found({ joint, target }: { joint: Row["recheck"]["joint"]; target: Row["low"] }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const [text, setText] = useState("");
  const [tightened, setTightened] = useState("");
  const send = async (held: boolean) => {
    const body = { joint: joint.key, text, tightened, held, system };
    if (!(await act(noteFound(body), `joint ${joint.number}`))) return;
    setText("");
    setTightened("");
  };
  const unit = system === "us" ? "ft·lb" : "N·m";
  return (
    <>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <Button className="min-h-14!" busy={busy} onClick={() => void send(true)}>
          Did not move at {pick(target)}
        </Button>
        <div className="w-28">
          <Entry
            label={`found on joint ${joint.number}`}
            value={text}
            onChange={setText}
            unit={unit}
            numeric
            takes="N·m"
            onEnter={() => void send(false)}
          />
        </div>
        <div className="w-28">
          <Entry
            label="tightened to"
            value={tightened}
            onChange={setTightened}
            unit={unit}
            numeric
            takes="N·m"
            onEnter={() => void send(false)}
          />
        </div>
        <Button className="min-h-14!" busy={busy} onClick={() => void send(false)}>
          Record
        </Button>
      </div>
      <Trouble words={trouble} />
    </>
  );
}

const WIDE = 420;
const HIGH = 92;

/** Torque over time: the band, what was set, found, tightened, held. */
function Chart({ row }: { row: Row }) {
  const pick = usePick();
  const low = row.low.value ?? 0;
  const high = row.high.value ?? 0;
  const values = row.points.map((p) => p.torque.value ?? 0);
  const top = Math.max(high, ...values);
  const foot = Math.min(low, ...values) * 0.9;
  const y = (nm: number) => HIGH - 24 - ((nm - foot) / (top - foot)) * (HIGH - 34);
  const x = (i: number) => 46 + (i / Math.max(1, row.points.length - 1)) * (WIDE - 92);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="h-24 w-full max-w-lg"
      role="img"
      aria-label={row.points
        .map((p) => `${p.at.slice(0, 10)} ${p.what} ${pick(p.torque)}`)
        .join("; ")}
    >
      <rect x="0" width={WIDE} y={y(high)} height={y(low) - y(high)} className="fill-sound/25" />
      <path
        d={row.points.map((p, i) => `${i ? "L" : "M"}${x(i)} ${y(p.torque.value ?? 0)}`).join("")}
        className="stroke-ink"
        fill="none"
      />
      {row.points.map((p, i) => (
        <g key={`${p.at}${p.what}`}>
          <circle
            cx={x(i)}
            cy={y(p.torque.value ?? 0)}
            r="4"
            className={p.what === "found" ? "fill-paper stroke-ink" : "fill-ink"}
            strokeWidth="2"
          />
          <text x={x(i)} y={HIGH - 3} textAnchor="middle" className="fill-ink text-[12px]">
            {p.what} {pick(p.torque)}
          </text>
        </g>
      ))}
    </svg>
  );
}
