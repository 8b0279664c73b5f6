import { Holding } from "../api/waiting";
import { Keep } from "../stations/keep/Keep";
import { Shell } from "./Shell";

/** Keep under the thumb: the same sheet, with what is entered waiting here without a link. */
export default function GarageKeep() {
  return (
    <Shell words="Keep">
      <Holding.Provider value="Keep">
        <main className="min-h-0 flex-1 overflow-y-auto">
          <Keep />
        </main>
      </Holding.Provider>
    </Shell>
  );
}
