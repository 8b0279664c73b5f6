import { useJobId } from "../../api/job";
import { Sheets } from "../../parts/Sheets";

const SHEETS = [
  ["", "Answer"],
  ["compare", "Side by side"],
  ["coverage", "Bare parts"],
  ["strike", "Strike map"],
  ["what-if", "What if"],
  ["priorities", "Priorities"],
  ["schools", "Schools"],
] as const;

/** Weigh-up: the answer, then its evidence: the table, the maps, a what-if, what matters to this rider, and the sheet to keep. */
export function WeighupFrame() {
  const job = useJobId();
  const link = "text-act underline underline-offset-4";
  return (
    <Sheets
      station="weigh-up"
      label="Sheets of the weighing up"
      sheets={SHEETS}
      aside={
        <span className="flex gap-4 py-1">
          <a
            className={link}
            href={`/api/jobs/${job}/weigh-up/decision.pdf`}
            target="_blank"
            rel="noopener"
          >
            Decision sheet (PDF)
          </a>
          <a className={link} href={`/api/jobs/${job}/weigh-up/decision.csv`} download>
            Table (CSV)
          </a>
        </span>
      }
    />
  );
}
