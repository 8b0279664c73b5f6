import { Sheets } from "../../parts/Sheets";

const SHEETS = [
  ["", "Side by side"],
  ["strike", "Strike map"],
  ["priorities", "Priorities"],
] as const;

/** Weigh-up: the table, the map of blows, and what matters to this rider. */
export function WeighupFrame() {
  return <Sheets station="weigh-up" label="Sheets of the weighing up" sheets={SHEETS} />;
}
