import { beginMaps, useRun } from "../../api/runs";
import type { StrikeAsked } from "../../api/types";
import { useWeighup } from "../../api/weighup";
import { RunControl } from "../../parts/RunControl";

const ASKED: Omit<StrikeAsked, "energy" | "radius"> = {
  plate: "",
  direction: "from below",
  system: "metric",
  shading: "touches",
  warm: "23",
};

/** The strike maps of all plates, for the energy and the stone of the rider's use. */
export function useMaps() {
  const weighup = useWeighup();
  const use = Object.fromEntries((weighup.data?.use ?? []).map((f) => [f.path, f.metric]));
  const energy = use["use.strike_energy_j"] || "";
  return useRun(
    "maps",
    beginMaps({ ...ASKED, energy, radius: `${use["use.stone_radius_mm"] ?? "15"} mm` }),
  );
}

/** Begins the striking of every plate, says how far it is, and whether it is out of date. */
export function MapsRun({ maps }: { maps: ReturnType<typeof useMaps> }) {
  return (
    <RunControl
      work={maps}
      first="Strike every plate"
      again="Strike all plates again"
      stale="Struck before the last change."
    />
  );
}
