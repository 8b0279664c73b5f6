import { useEffect, useState } from "react";
import type { Schemas } from "../../api/types";

type Clock = Schemas["LockerClock"];
const TICK_MS = 10_000;
const AHEAD_MS = 300_000;

const left = (until: string, now: number) => {
  const minutes = Math.ceil((Date.parse(until) - now) / 60_000);
  if (minutes <= 0) return "over";
  return minutes < 120 ? `${minutes} min` : `${Math.ceil(minutes / 60)} h`;
};

/** Clocks of thread locker: until it sets, until it holds; shown, never reckoned here. */
export function LockerClocks({ clocks, joint }: { clocks: readonly Clock[]; joint?: string }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const own = clocks.filter((c) => joint === undefined || c.joint === joint);
  if (own.length === 0) return null;
  return (
    <ul aria-label="Locker clocks" className="my-2">
      {own.map((clock) => (
        <li key={clock.joint + clock.kind} data-clock={clock.kind} className="text-lg">
          Joint {clock.number}:{" "}
          {Date.parse(clock.since) - now > AHEAD_MS ? (
            <b>told at a time that is still to come: a clock was set; how far it is is not known</b>
          ) : clock.set_before ? (
            <b>its locker had set before it was torqued: out with the screw, a fresh drop</b>
          ) : clock.until === "" ? (
            <b>not known when its locker holds: warm it, or look at the bottle</b>
          ) : clock.kind === "open" && left(clock.until, now) === "over" ? (
            <b>its locker has set: out with the screw, clean it, a fresh drop</b>
          ) : clock.kind === "open" ? (
            <>
              locker sets in <b className="num text-2xl">{left(clock.until, now)}</b>: torque it
              before
            </>
          ) : left(clock.until, now) === "over" ? (
            "its locker holds"
          ) : (
            <>
              locker holds in <b className="num text-2xl">{left(clock.until, now)}</b>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
