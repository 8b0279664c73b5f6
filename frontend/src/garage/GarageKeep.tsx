import { Holding } from "../api/waiting";
import { KeepFrame } from "../stations/keep/KeepFrame";
import { Shell } from "./Shell";

/** Keep under the thumb: the same sheets, with what is entered waiting here without a link. */
export default function GarageKeep() {
  return (
    <Shell words="Keep">
      <Holding.Provider value="Keep">
        <main className="min-h-0 flex-1 overflow-y-auto">
          <h1 className="sr-only">Keep</h1>
          <KeepFrame station="garage/keep" />
        </main>
      </Holding.Provider>
    </Shell>
  );
}
