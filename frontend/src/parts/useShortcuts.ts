import { useEffect, useRef } from "react";

/** Calls the handler of a key (its lower-case name) pressed outside of fields. */
export function useShortcuts(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest("input, textarea, [role=listbox], [role=dialog]")) return;
      const key = event.key.toLowerCase();
      const pressesButton = key === "enter" && target.closest("button, a");
      const handler = latest.current[key];
      if (handler && !pressesButton) {
        event.preventDefault();
        handler();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
