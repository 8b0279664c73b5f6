import { type ReactNode, useEffect, useRef } from "react";
import { NavLink, Outlet, useLocation } from "react-router";
import { useFrame, useJobId } from "../api/job";
import { useTitle } from "./useTitle";

type Props = {
  station: string;
  label: string;
  sheets: readonly (readonly [path: string, words: string])[];
  /** What stands at the right of the row. */
  aside?: ReactNode;
  /** What lies under all sheets. */
  below?: ReactNode;
};

/** A station whose work lies on several sheets: their names in a row, one of them open. */
export function Sheets({ station, label, sheets, aside, below }: Props) {
  const job = useJobId();
  const row = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  const frame = useFrame();
  const open = sheets.find(([path]) => path && pathname.endsWith(`/${station}/${path}`));
  const name = (open ?? sheets.find(([path]) => path === ""))?.[1];
  const of = frame.data?.stations.find((s) => station.endsWith(s.key))?.label;
  useTitle(name === of ? "" : name, of, frame.data?.title);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another sheet is open by another address
  useEffect(() => {
    // On the phone the names stand in one row: the open one is brought into sight.
    const current = row.current?.querySelector<HTMLElement>("[aria-current]");
    const nav = row.current;
    if (!current || !nav) return;
    const show = () => {
      const middle = current.offsetLeft - nav.offsetLeft + current.offsetWidth / 2;
      nav.scrollLeft = middle - nav.clientWidth / 2;
    };
    show();
    // Names are wider once their face is there.
    const observer = new ResizeObserver(show);
    for (const name of nav.children) observer.observe(name);
    return () => observer.disconnect();
  }, [pathname]);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <div className="flex shrink-0 flex-wrap items-center border-b border-rule px-3 sm:px-5">
        <nav
          aria-label={label}
          ref={row}
          className="flex min-w-0 flex-1 basis-80 gap-x-5 overflow-x-auto [scrollbar-width:none] sm:flex-wrap"
        >
          {sheets.map(([path, words]) => (
            <NavLink
              key={path}
              end={path === ""}
              to={`/jobs/${job}/${station}${path ? `/${path}` : ""}`}
              className={({ isActive }) =>
                `num inline-flex min-h-11 shrink-0 items-center text-lg whitespace-nowrap sm:min-h-9 ${
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
        {aside}
      </div>
      <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
        <Outlet />
      </div>
      {below}
    </div>
  );
}
