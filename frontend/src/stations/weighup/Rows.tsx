import type { Figure, PlateColumn, QuantityRow } from "../../api/types";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { useKept } from "./useKept";

type Props = {
  rows: readonly QuantityRow[];
  /** Rows of the strike maps, and the plates that have theirs. */
  struck: readonly QuantityRow[];
  struckPlates: readonly string[];
  columns: readonly PlateColumn[];
  open: (plate: string) => void;
};

const GATES = "Gates";
const FIRST_FOLDED = [
  "Each vital, from below",
  "Each vital, from ahead 20° upward",
  "Each vital, from ahead 40° upward",
  "Each vital, from the left 35° upward",
  "Each vital, from the right 35° upward",
  "Each vital, level from ahead",
];
const PASSED: Record<string, string> = { sound: "pass", "not known": "not known" };

/** Gates, pinned rows, then every group; groups fold, rows pin, both remembered. */
export function Rows({ rows, struck, struckPlates, columns, open }: Props) {
  const [folded, fold] = useKept("shield-folded-rows", FIRST_FOLDED);
  const [pinned, pin] = useKept("shield-pinned-rows", []);
  const placed = struck.map((row) => inPlace(row, struckPlates, columns));
  const all = [...rows.map((row) => ({ ...row, cells: [...row.cells] })), ...placed];
  const own = all.filter((row) => pinned.has(row.key));
  const groups = [...new Set(all.map((r) => r.group))];
  const parts = { folded, fold, pinned, pin, columns };
  return (
    <>
      <GateGroup columns={columns} open={open} folded={folded.has(GATES)} fold={fold} />
      {own.length > 0 && <Group {...parts} title="Pinned" rows={own} />}
      {groups.map((group) => (
        <Group key={group} {...parts} title={group} rows={all.filter((r) => r.group === group)} />
      ))}
    </>
  );
}

type Placed = Omit<QuantityRow, "cells"> & { cells: (Figure | undefined)[] };

/** A row of the maps with its cells under the right plates; the rest is still to come. */
function inPlace(row: QuantityRow, plates: readonly string[], columns: readonly PlateColumn[]) {
  return { ...row, cells: columns.map((c) => row.cells[plates.indexOf(c.key)]) };
}

type GroupProps = {
  title: string;
  rows: readonly Placed[];
  columns: readonly PlateColumn[];
  folded: ReadonlySet<string>;
  fold: (group: string) => void;
  pinned: ReadonlySet<string>;
  pin: (row: string) => void;
};

function GroupHead(props: { title: string; shut: boolean; fold: () => void; span: number }) {
  return (
    <tr>
      <th
        scope="colgroup"
        colSpan={props.span}
        className="border-t border-ink bg-paper pt-1 text-left"
      >
        <button
          type="button"
          aria-expanded={!props.shut}
          onClick={props.fold}
          className="num sticky left-0 inline-flex min-h-8 cursor-pointer items-center gap-2 text-act"
        >
          <svg viewBox="0 0 10 10" className="size-2.5" aria-hidden="true">
            <path
              d={props.shut ? "M3 1l4 4-4 4" : "M1 3l4 4 4-4"}
              className="stroke-act"
              strokeWidth="1.6"
              fill="none"
            />
          </svg>
          {props.title}
        </button>
      </th>
    </tr>
  );
}

function Group({ title, rows, columns, folded, fold, pinned, pin }: GroupProps) {
  const shut = folded.has(title);
  return (
    <tbody>
      <GroupHead title={title} shut={shut} fold={() => fold(title)} span={columns.length + 1} />
      {!shut &&
        rows.map((row) => (
          <tr key={row.key} data-row={row.key}>
            <th
              scope="row"
              className="sticky left-0 z-10 border-b border-rule bg-paper py-0.5 pr-1 text-left font-normal leading-tight"
            >
              <span className="flex items-center gap-1">
                <span className="flex-1">{row.label}</span>
                <PinButton label={row.label} on={pinned.has(row.key)} set={() => pin(row.key)} />
              </span>
            </th>
            {row.cells.map((cell, i) => (
              <Cell key={columns[i]?.key} cell={cell} row={row} column={columns[i]} />
            ))}
          </tr>
        ))}
    </tbody>
  );
}

function PinButton({ label, on, set }: { label: string; on: boolean; set: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={`Pin “${label}” to the top`}
      onClick={set}
      className="flex size-6 shrink-0 cursor-pointer items-center justify-center"
    >
      <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
        <path
          d="M6 1v7M2.5 1h7M6 8l-2 3h4z"
          className={on ? "fill-act stroke-act" : "stroke-quiet"}
          fill="none"
          strokeWidth="1.4"
        />
      </svg>
    </button>
  );
}

type CellProps = { cell: Figure | undefined; row: Placed; column: PlateColumn | undefined };

/** A figure without a value says so in its words: a mark beside them says no more. */
const saysNotKnown = (cell: Figure) => cell.value === null && cell.verdict === "not known";

function Cell({ cell, row, column }: CellProps) {
  const key = column?.key ?? "";
  const word = row.best.includes(key) ? "best" : row.worst.includes(key) ? "worst" : "";
  return (
    <td
      className={`border-b border-l border-rule px-1.5 py-0.5 align-top ${column?.in_hand ? "bg-sheet" : ""}`}
    >
      {cell === undefined ? (
        <span className="text-quiet">to come</span>
      ) : (
        <span className="flex flex-wrap items-center gap-x-1.5">
          <Why figure={cell} className="text-base" />
          {cell.verdict !== "sound" && !saysNotKnown(cell) && (
            <VerdictMark verdict={cell.verdict} quiet />
          )}
          {word && <Standing word={word} />}
        </span>
      )}
    </td>
  );
}

/** Best or worst of the candidates in a row: a mark and its word. */
function Standing({ word }: { word: "best" | "worst" }) {
  return (
    <span className="inline-flex items-center gap-0.5 text-xs">
      <svg viewBox="0 0 8 8" className="size-2" aria-hidden="true">
        {word === "best" ? (
          <path d="M4 0l4 4-4 4-4-4z" className="fill-ink" />
        ) : (
          <path d="M4 .8L7.2 4 4 7.2.8 4z" className="stroke-ink" fill="none" strokeWidth="1.2" />
        )}
      </svg>
      {word}
    </span>
  );
}

type GateProps = {
  columns: readonly PlateColumn[];
  open: (plate: string) => void;
  folded: boolean;
  fold: (group: string) => void;
};

function GateGroup({ columns, open, folded, fold }: GateProps) {
  const gates = columns[0]?.gates ?? [];
  const open_to_all = gates.filter((_, i) => columns.every((c) => c.gates[i]?.verdict === "sound"));
  return (
    <tbody>
      <GroupHead title={GATES} shut={folded} fold={() => fold(GATES)} span={columns.length + 1} />
      {!folded &&
        gates.map((gate, i) => (
          <tr
            key={gate.key}
            data-row={`gate:${gate.key}`}
            className={open_to_all.includes(gate) ? "hidden" : ""}
          >
            <th
              scope="row"
              className="sticky left-0 z-10 border-b border-rule bg-paper py-0.5 text-left font-normal leading-tight"
            >
              {gate.label}
            </th>
            {columns.map((column) => {
              const own = column.gates[i];
              if (!own) return <td key={column.key} />;
              const word = PASSED[own.verdict] ?? own.verdict;
              return (
                <td
                  key={column.key}
                  className={`border-b border-l border-rule px-1.5 ${column.in_hand ? "bg-sheet" : ""}`}
                >
                  {own.verdict === "sound" ? (
                    <span className="text-sm text-quiet" title={own.reason}>
                      {word}
                    </span>
                  ) : (
                    <button
                      type="button"
                      className="flex min-h-7 cursor-pointer items-center gap-1 text-sm font-semibold underline underline-offset-4"
                      onClick={() => open(column.key)}
                      aria-label={`${gate.label} of ${column.name}: ${word}. Show why`}
                    >
                      <VerdictMark verdict={own.verdict} quiet />
                      {word}
                    </button>
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      {!folded && open_to_all.length > 0 && (
        <tr>
          <td colSpan={columns.length + 1} className="border-b border-rule py-0.5 text-quiet">
            <span className="sticky left-0 text-sm">
              Every plate passes: {open_to_all.map((g) => g.label.toLowerCase()).join(", ")}.
            </span>
          </td>
        </tr>
      )}
    </tbody>
  );
}
