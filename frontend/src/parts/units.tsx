import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import type { System } from "../api/types";

type Units = { system: System; toggle: () => void };
const Context = createContext<Units>({ system: "metric", toggle: () => undefined });
const STORED = "shield-units";

/** Holds the system of units the person works in; remembered on this device. */
export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<System>(() =>
    localStorage.getItem(STORED) === "us" ? "us" : "metric",
  );
  useEffect(() => localStorage.setItem(STORED, system), [system]);
  const value = useMemo(
    () => ({ system, toggle: () => setSystem((s) => (s === "us" ? "metric" : "us")) }),
    [system],
  );
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

export const useUnits = () => useContext(Context);

/** The words for the other system: for tools that are marked in it. */
export function useOther() {
  const { system } = useUnits();
  return (both: { metric: string; us: string }) => (system === "us" ? both.metric : both.us);
}

/** Picks the words for the system in use; the core wrote both. */
export function usePick() {
  const { system } = useUnits();
  return (both: { metric: string; us: string }) => (system === "us" ? both.us : both.metric);
}
