import { useEffect, useState } from "react";

const PLACE = "read aloud";

/** Reads each step aloud while it is switched on, where the browser has a voice. */
export function useAloud(words: string) {
  const can = "speechSynthesis" in window;
  const [on, setOn] = useState(() => can && localStorage.getItem(PLACE) === "on");
  useEffect(() => {
    if (!on) return;
    const said = new SpeechSynthesisUtterance(words);
    said.lang = "en";
    speechSynthesis.cancel();
    speechSynthesis.speak(said);
    return () => speechSynthesis.cancel();
  }, [on, words]);
  const toggle = () => {
    localStorage.setItem(PLACE, on ? "off" : "on");
    setOn(!on);
  };
  return { can, on, toggle };
}

/**
 * Keeps the screen awake while steps are shown. Browsers allow it over an encrypted way or on the
 * computer itself only; elsewhere the phone's own setting is asked for.
 */
export function useAwake(): boolean {
  const can = "wakeLock" in navigator;
  useEffect(() => {
    if (!can) return;
    let lock: WakeLockSentinel | undefined;
    let over = false;
    const hold = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (found) => {
          if (over) void found.release();
          else lock = found;
        },
        // Refused on low battery: the screen then goes dark as it would anywhere.
        () => undefined,
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, [can]);
  return can;
}
