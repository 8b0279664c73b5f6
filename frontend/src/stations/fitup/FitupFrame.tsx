import { Sheets } from "../../parts/Sheets";

const SHEETS = [
  ["", "Joints"],
  ["holes", "Holes"],
  ["order", "Drawing home"],
  ["neighbours", "Neighbours"],
  ["pieces", "Pieces"],
  ["changes", "Changes and templates"],
] as const;

/** Fit-up: every screw starts, nothing touches, and each change shows its price first. */
export function FitupFrame() {
  return <Sheets station="fit-up" label="Sheets of fit-up" sheets={SHEETS} />;
}
