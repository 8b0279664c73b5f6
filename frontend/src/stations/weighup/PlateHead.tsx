import type { PlateColumn } from "../../api/types";
import { pickPlate, showInLedger } from "../../api/weighup";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";

type Props = {
  column: PlateColumn;
  open: (key: string) => void;
  /** It was picked just now: its reason is to be asked for. */
  asked: (key: string) => void;
  /** More than five columns: only what fits a narrow one is said. */
  many: boolean;
  /** No plate is picked, so that any may be shown in the ledger. */
  free: boolean;
};

/** The head of a plate's column: name, verdict, pick. */
export function PlateHead({ column, open, asked, many, free }: Props) {
  const { act, trouble, busy } = useAct();
  const pick = (plate: string) => act(pickPlate({ plate, reason: "" }));
  const look = () => act(showInLedger({ plate: column.key, reason: "" }));
  const stock = column.role === "stock";
  return (
    <th
      scope="col"
      className={`sticky top-0 z-10 max-w-52 min-w-27 border-b border-ink border-l border-l-rule bg-paper p-1.5 text-left align-top font-normal ${column.in_hand ? "bg-sheet! shadow-[inset_0_4px_0_var(--color-act)]" : ""}`}
      data-plate={column.key}
    >
      {column.picture && <Drawing drawing={column.picture} className="mb-1 h-16 max-w-full" />}
      <span className="num block text-base leading-tight text-balance">{column.name}</span>
      <span className="label block leading-tight">
        {column.material}, {stock ? "as delivered" : `on ${column.mounting}`}
      </span>
      {column.bought.length > 0 && (
        <span className="block text-sm font-semibold">with {column.bought.join(" and ")}</span>
      )}
      <span className="mt-0.5 flex flex-wrap items-center justify-between gap-x-1">
        <VerdictMark verdict={column.verdict} />
        <button
          type="button"
          className="min-h-6 cursor-pointer text-sm text-act underline underline-offset-4"
          onClick={() => open(column.key)}
          aria-label={`${column.findings.length} findings of ${column.name}`}
        >
          {column.findings.length} findings
        </button>
      </span>
      {!many && <span className="block text-sm leading-snug">{column.reason}</span>}
      {!stock && (
        <span className="mt-1 flex items-center gap-x-1.5">
          {column.picked ? (
            <Button busy={busy} className="px-2!" onClick={() => void pick("")}>
              Take pick back
            </Button>
          ) : (
            <Button
              tone="main"
              busy={busy}
              className="px-2!"
              aria-label={`Pick the ${column.name}`}
              onClick={() => void pick(column.key).then((done) => done && asked(column.key))}
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
              onClick={() => void look()}
            >
              {many ? "Ledger" : "Show in ledger"}
            </Button>
          )}
        </span>
      )}
      <Trouble words={trouble} />
    </th>
  );
}
