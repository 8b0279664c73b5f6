import { useState } from "react";
import { Button } from "../parts/Button";

const SEEN = "shield-first-path";

/** The way from a bike to a plate that is looked after, in five sentences; shown until it is read. */
export function FirstPath() {
  const [open, setOpen] = useState(() => localStorage.getItem(SEEN) !== "read");
  if (!open) return null;
  const read = () => {
    localStorage.setItem(SEEN, "read");
    setOpen(false);
  };
  return (
    <section aria-label="How it goes" className="mb-4 border-l-[6px] border-act bg-sheet px-4 py-2">
      <ol className="list-decimal pl-5">
        <li>Say which bike it is: a layout fills in the rest, marked as assumed.</li>
        <li>Enter two plates or more, and see what each weighs, covers and costs in clearance.</li>
        <li>Measure what “Measure next” names, and pick one.</li>
        <li>Lay its parts on the bench, and see that every screw is long enough and no longer.</li>
        <li>
          Take the phone under the bike for the torques; afterwards it says when to look again.
        </li>
      </ol>
      <Button tone="quiet" onClick={read}>
        I have read this
      </Button>
    </section>
  );
}
