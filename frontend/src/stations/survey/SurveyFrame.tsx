import { Suspense } from "react";
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

/** Survey: its sheets side by side, and the instruments at hand under all of them. */
export function SurveyFrame() {
  const job = useJobId();
  return (
    <FocusProvider>
      <div className="flex min-h-full flex-col lg:h-full">
        <nav
          aria-label="Sheets of the survey"
          className="flex shrink-0 flex-wrap gap-x-5 border-b border-rule px-3 sm:px-5"
        >
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
        <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
          <Suspense fallback={<Waiting what="the sheet" />}>
            <Outlet />
          </Suspense>
        </div>
        <Tray />
      </div>
    </FocusProvider>
  );
}
