import { useWeighup } from "../../api/hooks";
import { beginMaps, type StrikeAsked, useRun } from "../../api/weighup";
import { Button } from "../../parts/Button";
import { RunBar } from "../../parts/RunBar";

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
  const run = maps.run;
  return (
    <>
      {run?.state === "running" ? (
        <RunBar run={run} cancel={() => void maps.cancel()} />
      ) : (
        <>
          <Button className="px-2!" onClick={() => void maps.start()}>
            {run ? "Strike all plates again" : "Strike every plate"}
          </Button>
          {run && <RunBar run={run} cancel={() => undefined} />}
        </>
      )}
      {maps.stale && run?.state !== "running" && (
        <p className="text-sm font-semibold">Struck before the last change.</p>
      )}
      {maps.trouble && (
        <p role="alert" className="font-semibold text-blocked">
          {maps.trouble}
        </p>
      )}
    </>
  );
}
