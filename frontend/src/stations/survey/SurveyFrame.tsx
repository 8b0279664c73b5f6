import { Suspense, useState } from "react";
import { NavLink, Outlet } from "react-router";
import { useJobId } from "../../api/hooks";
import { FocusProvider } from "../../parts/Focus";
import { Waiting } from "../../parts/States";
import { Tray } from "../../parts/Tray";

const SHEETS = [
  ["", "Bike"],
  ["underside", "Underside and scars"],
  ["next", "Measure next"],
  ["plates", "Plates"],
  ["weighing", "Weighing"],
  ["strip", "Strip list"],
] as const;

const TRAY = "shield-tray";

/** Survey: its sheets side by side, and the instruments at hand under all of them. */
export function SurveyFrame() {
  const job = useJobId();
  const [open, setOpen] = useState(() => localStorage.getItem(TRAY) === "open");
  const toggle = () => {
    localStorage.setItem(TRAY, open ? "" : "open");
    setOpen(!open);
  };
  return (
    <FocusProvider>
      <div className="flex min-h-full flex-col lg:h-full">
        <div className="flex shrink-0 flex-wrap items-center border-b border-rule px-3 sm:px-5">
          <nav aria-label="Sheets of the survey" className="flex flex-1 flex-wrap gap-x-5">
            {SHEETS.map(([path, words]) => (
              <NavLink
                key={path}
                end={path === ""}
                to={`/jobs/${job}/survey${path ? `/${path}` : ""}`}
                className={({ isActive }) =>
                  `num inline-flex min-h-9 items-center text-lg ${
                    isActive
                      ? "border-b-3 border-act"
                      : "text-act underline decoration-1 underline-offset-4"
                  }`
                }
              >
                {words}
              </NavLink>
            ))}
          </nav>
          <button
            type="button"
            className="min-h-9 cursor-pointer text-act underline underline-offset-4"
            aria-expanded={open}
            onClick={toggle}
          >
            {open ? "Put the instruments away" : "Lay out the instruments"}
          </button>
        </div>
        <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
          <Suspense fallback={<Waiting what="the sheet" />}>
            <Outlet />
          </Suspense>
        </div>
        {open && <Tray />}
      </div>
    </FocusProvider>
  );
}
