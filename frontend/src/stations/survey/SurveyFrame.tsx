import { useState } from "react";
import { FocusProvider } from "../../parts/Focus";
import { Sheets } from "../../parts/Sheets";
import { Tray } from "../../parts/Tray";

const SHEETS = [
  ["", "Bike"],
  ["underside", "Underside and scars"],
  ["space", "In space"],
  ["next", "Measure next"],
  ["plates", "Plates"],
  ["weighing", "Weighing"],
  ["strip", "Strip list"],
] as const;

const TRAY = "shield-tray";

/** Survey: its sheets side by side, and the instruments at hand under all of them. */
export function SurveyFrame() {
  const [open, setOpen] = useState(() => localStorage.getItem(TRAY) === "open");
  const toggle = () => {
    localStorage.setItem(TRAY, open ? "" : "open");
    setOpen(!open);
  };
  return (
    <FocusProvider>
      <Sheets
        station="survey"
        label="Sheets of the survey"
        sheets={SHEETS}
        aside={
          <button
            type="button"
            className="min-h-9 cursor-pointer text-act underline underline-offset-4"
            aria-expanded={open}
            onClick={toggle}
          >
            {open ? "Put the instruments away" : "Lay out the instruments"}
          </button>
        }
        below={open && <Tray />}
      />
    </FocusProvider>
  );
}
