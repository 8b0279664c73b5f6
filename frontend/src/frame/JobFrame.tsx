import { useState } from "react";
import { Link, NavLink, Outlet, useMatch, useNavigate, useParams } from "react-router";
import { redo, undo, useFrame } from "../api/job";
import { useLive } from "../api/live";
import type { Frame, StationState } from "../api/types";
import { BackToList } from "../parts/BackToList";
import { Failed, Waiting } from "../parts/States";
import { useUnits } from "../parts/units";
import { useAct } from "../parts/useAct";
import { useShortcuts } from "../parts/useShortcuts";
import { VerdictMark } from "../parts/Verdict";
import { Keys } from "./Keys";
import { Ledger } from "./Ledger";
import { Tools } from "./Tools";

const STATIONS = ["survey", "weigh-up", "kit", "fit-up", "tighten", "keep"] as const;

/** Stations in which a plate is weighed against stock. */
const WEIGHS = ["survey", "weigh-up"];

/** The frame around every station: stations, ledger, units, keys. */
export function JobFrame() {
  const frame = useFrame();
  const { job } = useParams();
  const navigate = useNavigate();
  const { toggle } = useUnits();
  const { act } = useAct();
  const [sheet, setSheet] = useState(false);
  useLive(job ?? "");
  const go = (to: string) => () => void navigate(to);
  useShortcuts({
    ...Object.fromEntries(STATIONS.map((s, i) => [String(i + 1), go(`/jobs/${job}/${s}`)])),
    g: go(`/jobs/${job}/garage`),
    l: go("/"),
    u: toggle,
    z: () => void act(undo),
    y: () => void act(redo),
    "?": () => setSheet(true),
  });
  const station = useMatch("/jobs/:job/:station/*")?.params.station ?? "";
  // The answer says itself what its plate costs, which need not be the one in hand; from Kit on
  // it is the work that counts.
  const answers = useMatch("/jobs/:job/weigh-up") !== null;
  const brief = answers || !WEIGHS.includes(station);
  if (frame.isPending) return <Waiting what="the job" />;
  if (!frame.data) {
    return (
      <main>
        <Failed error={frame.error} retry={() => void frame.refetch()} />
        <div className="px-6">
          <BackToList />
        </div>
      </main>
    );
  }
  return (
    <div className="flex min-h-dvh flex-col lg:h-dvh">
      <TopBar frame={frame.data} openSheet={() => setSheet(true)} />
      <StationStrip stations={frame.data.stations} job={frame.data.id} />
      <main className="relative min-h-0 flex-1 overflow-y-auto pb-36 sm:pb-0">
        <Outlet />
      </main>
      <OpenOnBike frame={frame.data} />
      <Ledger frame={frame.data} brief={brief} station={station} />
      <Keys open={sheet} close={() => setSheet(false)} />
    </div>
  );
}

/** What is open on the bike, on every screen until it is closed. */
function OpenOnBike({ frame }: { frame: Frame }) {
  const open = frame.open_on_bike;
  if (open.length === 0) return null;
  return (
    <p
      role="status"
      className="fixed inset-x-0 bottom-27 z-30 border-t-2 border-blocked bg-sheet px-3 py-1 sm:static sm:px-5"
      data-testid="open-on-bike"
    >
      <VerdictMark verdict="blocked" quiet />{" "}
      <Link to={`/jobs/${frame.id}/tighten`} className="text-act underline underline-offset-4">
        {open.length === 1
          ? "1 joint of the bike is open"
          : `${open.length} joints of the bike are open`}
      </Link>
      : {open.join(", ")}
    </p>
  );
}

function TopBar({ frame, openSheet }: { frame: Frame; openSheet: () => void }) {
  return (
    <header className="flex items-center gap-3 border-b border-ink px-3 py-1.5 sm:px-5">
      <Link
        to="/"
        className="stamp shrink-0 text-lg text-act"
        aria-label="Rugged Shield, work list"
      >
        <span className="hidden sm:inline">Rugged Shield</span>
        <span className="sm:hidden">Work list</span>
      </Link>
      <h1 className="min-w-0 flex-1 truncate text-lg">{frame.title}</h1>
      <span className="hidden truncate text-quiet xl:inline">{frame.bike}</span>
      <Tools openSheet={openSheet} />
    </header>
  );
}

function StationStrip({ stations, job }: { stations: readonly StationState[]; job: string }) {
  return (
    <nav
      aria-label="Stations"
      className="fixed inset-x-0 bottom-0 z-30 flex border-t border-ink bg-steel sm:static sm:border-t-0 sm:border-b"
    >
      {stations.map((s, i) => (
        <NavLink
          key={s.key}
          to={`/jobs/${job}/${s.key}`}
          className={({ isActive }) =>
            `flex min-h-13 min-w-0 flex-1 flex-col justify-center border-r border-ink/30 px-0.5 py-1 text-center last:border-r-0 sm:px-3 sm:text-left ${
              isActive ? "bg-paper shadow-[inset_0_4px_0_var(--color-act)]" : "hover:bg-sheet"
            }`
          }
        >
          <span className="flex items-center justify-center gap-1.5 sm:justify-start">
            <span className="num hidden text-quiet sm:inline">{i + 1}</span>
            <span className="num truncate text-[0.84rem] sm:text-lg">{s.label}</span>
            <span className="hidden sm:inline">
              <VerdictMark verdict={s.verdict} quiet />
            </span>
          </span>
          <span className="flex justify-center sm:hidden">
            <VerdictMark verdict={s.verdict} quiet />
          </span>
          <span className="hidden truncate text-[0.8125rem] text-ink/80 sm:block">{s.words}</span>
        </NavLink>
      ))}
    </nav>
  );
}
