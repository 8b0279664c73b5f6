import { useEffect, useRef } from "react";
import type { FieldView, Finding, Gate, PlateColumn } from "../../api/types";
import { setBundle } from "../../api/weighup";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Findings } from "../../parts/Findings";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";

type Props = {
  column: PlateColumn;
  /** What its strike map found, once every plate is struck. */
  struck: readonly Finding[];
  close: () => void;
  reason: FieldView | null;
  /** The plate was picked just now: its reason is asked for. */
  asking: boolean;
};

/** One plate of the comparison: its gates with what clears them, its numbers, its findings. */
export function PlatePanel({ column, struck, close, reason, asking }: Props) {
  const why = useRef<HTMLDivElement>(null);
  const asks = asking && reason !== null;
  useEffect(() => {
    if (asks) why.current?.querySelector("input")?.focus();
  }, [asks]);
  const shut = column.gates.filter((g) => g.verdict !== "sound");
  return (
    <aside
      className="relative min-h-0 overflow-y-auto border border-ink bg-sheet p-3"
      aria-label={`Findings of ${column.name}`}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.preventDefault();
        close();
        // The work goes on in this plate's column, where the panel was opened.
        document.querySelector<HTMLElement>(`[data-plate="${column.key}"] button`)?.focus();
      }}
    >
      <div className="flex items-start gap-2">
        <h2 className="flex-1 text-xl leading-tight">{column.name}</h2>
        <Button onClick={close}>Close</Button>
      </div>
      {reason && (
        <div className="mt-2" ref={why}>
          <Field field={reason} />
          {asking && (
            <p className="text-sm text-quiet">
              It stands on the decision sheet. It may stay empty.
            </p>
          )}
        </div>
      )}
      <h3 className="mt-2 text-lg">Gates</h3>
      {shut.length === 0 && <p>All gates are open.</p>}
      <ul>
        {shut.map((gate) => (
          <GateItem key={gate.key} gate={gate} plate={column.key} />
        ))}
      </ul>
      {column.bought.map((thing) => (
        <Bundle key={thing} plate={column.key} needs={thing} weighed />
      ))}
      <h3 className="mt-3 text-lg">Findings</h3>
      {column.findings.length + struck.length === 0 && <p>Nothing speaks against it.</p>}
      <Findings findings={[...column.findings, ...struck]} />
      <h3 className="mt-3 text-lg">Its numbers</h3>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {column.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
    </aside>
  );
}

function GateItem({ gate, plate }: { gate: Gate; plate: string }) {
  return (
    <li className="border-b border-rule py-1.5">
      <p>
        <VerdictMark verdict={gate.verdict} /> <b>{gate.label}:</b> {gate.reason}
      </p>
      {gate.clears && <p className="text-sm">Cleared by: {gate.clears}.</p>}
      {gate.needs && <Bundle plate={plate} needs={gate.needs} weighed={false} />}
    </li>
  );
}

/** Weigh a plate with what it needs, or without it again. */
function Bundle({ plate, needs, weighed }: { plate: string; needs: string; weighed: boolean }) {
  const { act, trouble, busy } = useAct();
  if (needs !== "bars" && needs !== "upper bars" && needs !== "isolators") return null;
  const name = needs === "bars" ? "crash bars" : needs;
  return (
    <p className="mt-1">
      <Button
        tone={weighed ? "plain" : "main"}
        busy={busy}
        onClick={() => void act(setBundle({ plate, needs, add: !weighed }))}
      >
        {weighed ? `Weigh it without ${name}` : `Weigh it with ${name}`}
      </Button>
      <Trouble words={trouble} />
    </p>
  );
}
