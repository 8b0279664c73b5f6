import { createContext, type ReactNode, useContext, useMemo, useRef, useState } from "react";
import type { Ghost } from "../api/types";
import { useUnits } from "./units";

/** A reading taken from an instrument, as the server gave it. */
export type Reading = { text: string; instrument: string; resolution: number; at: string };

/** The field that a reading would go into, and that a sketch explains. */
export type Target = {
  path: string;
  label: string;
  /** Unit the field takes readings in; empty when it takes none. */
  takes: string;
  put: (reading: Reading) => void;
};

type Actions = {
  aim: (target: Target) => void;
  ghost: (ghost: Ghost | null) => void;
};

const NOTHING: Actions = { aim: () => undefined, ghost: () => undefined };
const ActionsContext = createContext<Actions>(NOTHING);
const TargetContext = createContext<Target | null>(null);
const GhostContext = createContext<Ghost | null>(null);
const FOLLOW_MS = 80;

/** Knows which field is in hand; fields below it report, drawings and the tray listen. */
export function FocusProvider({ children }: { children: ReactNode }) {
  const [target, setTarget] = useState<Target | null>(null);
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const pause = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const actions = useMemo<Actions>(
    () => ({
      aim: setTarget,
      ghost: (next) => {
        clearTimeout(pause.current);
        if (next) pause.current = setTimeout(() => setGhost(next), FOLLOW_MS);
        else setGhost(null);
      },
    }),
    [],
  );
  return (
    <ActionsContext.Provider value={actions}>
      <TargetContext.Provider value={target}>
        <GhostContext.Provider value={ghost}>{children}</GhostContext.Provider>
      </TargetContext.Provider>
    </ActionsContext.Provider>
  );
}

export const useAim = () => useContext(ActionsContext);
export const useTarget = () => useContext(TargetContext);
export const useGhost = () => useContext(GhostContext);

/** The field in hand as it is being typed, in the system of the person: what drawings follow. */
export function useFollowing() {
  const { system } = useUnits();
  return { ghost: useGhost(), system };
}
