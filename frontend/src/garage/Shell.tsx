import { type ReactNode, useEffect, useState } from "react";
import { Link, NavLink, useParams } from "react-router";
import { useFlush } from "../api/flush";
import { useFrame } from "../api/job";
import { useLive } from "../api/live";
import { cameOverNetwork, isShutOut } from "../api/phones";
import { Button } from "../parts/Button";
import { ThemeSwitch } from "../parts/ThemeSwitch";
import { useUnits } from "../parts/units";
import { VerdictMark } from "../parts/Verdict";
import { ShutOut } from "./ShutOut";
import { WaitingBar } from "./WaitingBar";

function useClock(): string {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), 15_000);
    return () => clearInterval(timer);
  }, []);
  return now.toTimeString().slice(0, 5);
}

type Props = { words: string; more?: string; progress?: [number, number]; children: ReactNode };

/** What every screen of garage mode has around it: the way out, the clock, the link, what waits. */
export function Shell({ words, more, progress, children }: Props) {
  const { job = "" } = useParams();
  const { system, toggle } = useUnits();
  const frame = useFrame();
  const link = useLive(job);
  const flush = useFlush(job, link);
  const clock = useClock();
  if (isShutOut(frame.error)) return <ShutOut />;
  const open = frame.data?.open_on_bike ?? [];
  return (
    <div className="flex h-dvh flex-col bg-paper">
      <header>
        <div className="flex items-center gap-3 border-b border-ink px-3 py-1 sm:px-6">
          {!cameOverNetwork() && (
            <Link
              to={`/jobs/${job}/tighten`}
              className="inline-flex min-h-11 items-center text-act underline"
            >
              Leave<span className="hidden sm:inline">&nbsp;garage mode</span>
            </Link>
          )}
          <nav aria-label="Garage" className="flex">
            <Tab to={`/jobs/${job}/garage`} words="Steps" />
            <Tab to={`/jobs/${job}/garage/keep`} words="Keep" />
          </nav>
          <p className="flex-1 text-right num text-xl sm:text-center">
            {words}
            <span className="label ml-3 hidden sm:inline">{more}</span>
          </p>
          <Button onClick={toggle} className="hidden sm:inline-block">
            <span className="sr-only">Switch units, now </span>
            {system === "us" ? "ft·lb" : "N·m"}
          </Button>
          <ThemeSwitch className="hidden sm:inline-block" />
          <time className="num text-xl">{clock}</time>
        </div>
        {link === "lost" && (
          <p role="status" className="border-b-2 border-mind bg-sheet px-3 py-1 sm:px-6">
            <VerdictMark verdict="mind" /> No link: what you enter waits on this device.
          </p>
        )}
        <WaitingBar job={job} flush={flush} />
        {open.length > 0 && (
          <p role="status" className="border-b-2 border-blocked bg-sheet px-3 py-1 sm:px-6">
            <VerdictMark verdict="blocked" quiet /> Open on the bike: {open.join(", ")}
          </p>
        )}
        {progress && (
          <progress
            className="block h-1.5 w-full"
            value={progress[0]}
            max={progress[1]}
            aria-label="Steps done"
          />
        )}
      </header>
      {children}
    </div>
  );
}

function Tab({ to, words }: { to: string; words: string }) {
  return (
    <NavLink
      end
      to={to}
      className={({ isActive }) =>
        `inline-flex min-h-12 items-center px-3 text-lg ${isActive ? "shadow-[inset_0_-4px_0_var(--color-act)]" : "text-act"}`
      }
    >
      {words}
    </NavLink>
  );
}
