import { useCallback, useEffect, useRef, useState } from "react";
import { Refusal, Unreachable, wordsFor } from "../api/errors";
import { setField, useJobId } from "../api/job";
import { newKey, useWrite } from "../api/writes";
import type { Reading } from "./Focus";
import { useUnits } from "./units";

const RETRY_MS = 3000;

/** How a number is known, from what the program put there to what was tried on the bike. */
export const GRADES = ["assumed", "guessed", "printed", "measured", "tried"] as const;
export type Grade = (typeof GRADES)[number];

export type SaveStanding =
  | { is: "idle" | "saving" | "saved" }
  | { is: "failed"; words: string }
  | { is: "waiting"; words: string }
  | { is: "conflict"; theirs: string };

/** Entries that could not be sent yet are kept on this device until they are. */
const waitingKey = (job: string, path: string) => `shield-unsent:${job}:${path}`;

/** Saves one field's text: autosave, retry when the server is gone, choice on a conflict. */
export function useFieldSave(path: string) {
  const { system } = useUnits();
  const write = useWrite();
  const stored = waitingKey(useJobId(), path);
  const [state, setState] = useState<SaveStanding>({ is: "idle" });
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const save = useCallback(
    async (
      text: string,
      key: string = newKey(),
      reading?: Reading,
      known: Grade | null = null,
    ): Promise<boolean> => {
      clearTimeout(timer.current);
      setState({ is: "saving" });
      const { instrument = "", resolution = null, at = "" } = reading ?? {};
      try {
        await write(setField({ path, text, system, instrument, resolution, at, known }), key);
        localStorage.removeItem(stored);
        setState({ is: "saved" });
        return true;
      } catch (error) {
        if (!(error instanceof Unreachable)) localStorage.removeItem(stored);
        if (error instanceof Unreachable) {
          localStorage.setItem(stored, JSON.stringify({ text, key }));
          setState({ is: "waiting", words: "Not saved yet: no answer. Trying again …" });
          timer.current = setTimeout(() => void save(text, key, reading, known), RETRY_MS);
        } else if (error instanceof Refusal && error.status === 409) {
          setState({ is: "conflict", theirs: error.answer.newer?.value ?? "" });
        } else {
          setState({ is: "failed", words: wordsFor(error) });
        }
        return false;
      }
    },
    [path, system, write, stored],
  );
  const unsent = useCallback((): { text: string; key: string } | null => {
    const found = localStorage.getItem(stored);
    return found ? (JSON.parse(found) as { text: string; key: string }) : null;
  }, [stored]);
  const forget = useCallback(() => {
    clearTimeout(timer.current);
    localStorage.removeItem(stored);
  }, [stored]);
  return { state, setState, save, unsent, forget };
}
