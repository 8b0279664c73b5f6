import { useSyncExternalStore } from "react";

const QUERY = "(min-width: 64rem)";

function listen(changed: () => void) {
  const list = window.matchMedia(QUERY);
  list.addEventListener("change", changed);
  return () => list.removeEventListener("change", changed);
}

/** Whether there is room for several questions beside each other. */
export const useWide = () => useSyncExternalStore(listen, () => window.matchMedia(QUERY).matches);
