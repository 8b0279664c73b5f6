import { Sheets } from "../../parts/Sheets";

const SHEETS = [
  ["", "Bench"],
  ["joints", "Joint by joint"],
  ["buy", "To buy"],
  ["tools", "Tools"],
  ["sheet", "The sheet"],
] as const;

/** Kit: what lies on the floor, where each part goes, what is lacking. */
export function KitFrame() {
  return <Sheets station="kit" label="Sheets of the kit" sheets={SHEETS} />;
}
