import { useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import type { System } from "../api/types";
import { speakIn, unitsSpoken } from "../api/units";

type Units = { system: System; toggle: () => void };
const Context = createContext<Units>({ system: "metric", toggle: () => undefined });
/** Holds the system of units the person works in; the server's sentences follow it. */
export function UnitsProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [system, setSystem] = useState<System>(unitsSpoken);
  const toggle = useCallback(() => {
    const other = system === "us" ? "metric" : "us";
    speakIn(other);
    setSystem(other);
    void queries.invalidateQueries();
  }, [system, queries]);
  const value = useMemo(() => ({ system, toggle }), [system, toggle]);
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
