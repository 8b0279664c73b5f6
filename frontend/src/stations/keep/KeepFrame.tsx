import { Sheets } from "../../parts/Sheets";

const SHEETS = [
  ["", "Due"],
  ["log", "Log"],
  ["plate", "Blows and wear"],
  ["joints", "Joints"],
  ["back", "Looking back"],
] as const;

/** Keep: what is due and why, what happened, what became of the plate. */
export function KeepFrame({ station = "keep" }: { station?: string }) {
  return <Sheets station={station} label="Sheets of keep" sheets={SHEETS} />;
}
