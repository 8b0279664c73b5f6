import { useState } from "react";
import { api, type PlateColumn, type QuantityRow, unwrap } from "../../api/client";
import { useWeighup } from "../../api/hooks";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Failed, Waiting } from "../../parts/States";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

/** Weigh-up: candidates beside stock, quantities in rows, one to pick. */
export function SideBySide() {
  const weighup = useWeighup();
  const [open, setOpen] = useState("");
  if (weighup.isPending) return <Waiting what="the comparison" />;
  if (weighup.isError) return <Failed error={weighup.error} retry={() => void weighup.refetch()} />;
  const view = weighup.data;
  const chosen = view.columns.find((c) => c.key === open);
  return (
    <div className="grid gap-x-5 px-3 py-3 sm:px-5 lg:h-full lg:grid-cols-[minmax(0,1fr)_minmax(0,min(17rem,26vw))]">
      <div className="relative min-h-0 min-w-0 overflow-x-auto lg:overflow-y-auto">
        <table className="w-full min-w-[46rem] border-collapse">
          <thead>
            <tr>
              <th scope="col" className="w-44 pb-2 text-left align-bottom">
                <span className="text-xl num">Against stock</span>
              </th>
              {view.columns.map((column) => (
                <Head
                  key={column.key}
                  column={column}
                  open={setOpen}
                  free={!view.columns.some((c) => c.picked)}
                />
              ))}
            </tr>
          </thead>
          <Rows rows={view.rows} columns={view.columns} />
        </table>
      </div>
      <aside
        className="relative min-h-0 lg:overflow-y-auto"
        aria-label="What the plate in hand shields"
      >
        {chosen ? (
          <PlateEditor column={chosen} close={() => setOpen("")} />
        ) : (
          <>
            <Drawing drawing={view.creeper} without={["part", "mount"]} className="h-80 w-full" />
            <p className="text-sm text-quiet">
              Hatched: more than half bare from below. Dashed: the stock plate.
            </p>
            <h2 className="mt-1 text-lg">Bare with the plate in the ledger</h2>
            {view.bare.length === 0 && <p>No vital of weight 4 or 5 is more than half bare.</p>}
            <ul>
              {view.bare.map((words) => (
                <li key={words} className="border-b border-rule py-1">
                  {words}
                </li>
              ))}
            </ul>
            <div className="mt-3">
              <Field field={view.pick_reason} />
            </div>
          </>
        )}
      </aside>
    </div>
  );
}

type HeadProps = {
  column: PlateColumn;
  open: (key: string) => void;
  /** No plate is picked, so that any may be shown in the ledger. */
  free: boolean;
};

function Head({ column, open, free }: HeadProps) {
  const { act, trouble, busy } = useAct();
  const send = (path: "pick" | "look", plate: string) =>
    act((job_id, base) =>
      unwrap(
        path === "pick"
          ? api.POST("/api/jobs/{job_id}/weigh-up/pick", {
              params: { path: { job_id } },
              body: { ...base, plate, reason: "" },
            })
          : api.POST("/api/jobs/{job_id}/weigh-up/look", {
              params: { path: { job_id } },
              body: { ...base, plate, reason: "" },
            }),
      ),
    );
  const stock = column.role === "stock";
  return (
    <th
      scope="col"
      className={`max-w-56 border-l border-rule p-2 text-left align-top font-normal ${column.in_hand ? "bg-sheet shadow-[inset_0_4px_0_var(--color-act)]" : ""}`}
      data-plate={column.key}
    >
      <span className="num block text-lg leading-tight">{column.name}</span>
      <span className="label block">
        {column.material}, {column.form}, {stock ? "as delivered" : `on ${column.mounting}`}
      </span>
      <span className="mt-1 flex items-center justify-between gap-1">
        <VerdictMark verdict={column.verdict} />
        <button
          type="button"
          className="min-h-6 cursor-pointer text-sm text-act underline underline-offset-4"
          onClick={() => open(column.key)}
        >
          {column.findings.length} findings
        </button>
      </span>
      <span className="block text-sm leading-snug">{column.reason}</span>
      {!stock && (
        <span className="mt-1.5 flex items-center gap-2">
          {column.picked ? (
            <Button busy={busy} onClick={() => void send("pick", "")}>
              Take pick back
            </Button>
          ) : (
            <Button
              tone="main"
              busy={busy}
              aria-label={`Pick the ${column.name}`}
              onClick={() => void send("pick", column.key)}
            >
              Pick
            </Button>
          )}
          {!column.in_hand && free && (
            <Button
              tone="quiet"
              className="px-0! text-sm"
              busy={busy}
              aria-label={`Show in ledger: ${column.name}`}
              onClick={() => void send("look", column.key)}
            >
              Show in ledger
            </Button>
          )}
        </span>
      )}
      {trouble && (
        <span role="alert" className="block font-semibold text-blocked">
          {trouble}
        </span>
      )}
    </th>
  );
}

function Rows({
  rows,
  columns,
}: {
  rows: readonly QuantityRow[];
  columns: readonly PlateColumn[];
}) {
  const groups = [...new Set(rows.map((r) => r.group))];
  return (
    <>
      {groups.map((group) => (
        <tbody key={group}>
          <tr>
            <th
              scope="colgroup"
              colSpan={columns.length + 1}
              className="border-t border-ink pt-2 text-left"
            >
              <span className="num text-act">{group}</span>
            </th>
          </tr>
          {rows
            .filter((r) => r.group === group)
            .map((row) => (
              <tr key={row.key} className="border-b border-rule" data-row={row.key}>
                <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                  {row.label}
                </th>
                {row.cells.map((cell, i) => (
                  <td
                    key={columns[i]?.key}
                    className={`border-l border-rule px-2 py-0.5 ${columns[i]?.in_hand ? "bg-sheet" : ""}`}
                  >
                    <span className="flex items-center gap-2">
                      <Why figure={cell} className="text-lg" />
                      {cell.verdict !== "sound" && <VerdictMark verdict={cell.verdict} quiet />}
                    </span>
                  </td>
                ))}
              </tr>
            ))}
        </tbody>
      ))}
    </>
  );
}

function PlateEditor({ column, close }: { column: PlateColumn; close: () => void }) {
  return (
    <section className="border border-ink bg-sheet p-3" aria-label={`Findings of ${column.name}`}>
      <div className="flex items-start gap-2">
        <h2 className="flex-1 text-xl">{column.name}</h2>
        <Button onClick={close}>Close</Button>
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {column.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <h3 className="mt-3 text-lg">Findings</h3>
      {column.findings.length === 0 && <p>Nothing speaks against it.</p>}
      <ul>
        {column.findings.map((f) => (
          <li key={f.text} className="border-b border-rule py-1.5">
            <VerdictMark verdict={f.verdict} /> {f.text}
          </li>
        ))}
      </ul>
    </section>
  );
}
