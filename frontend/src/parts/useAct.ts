import { useState } from "react";
import { wordsFor } from "../api/errors";
import type { SavedView, Write } from "../api/types";
import { Held } from "../api/waiting";
import { useWrite } from "../api/writes";

/**
 * A button's write: runs it once at a time and keeps what went wrong in words. Where writes may
 * wait, one that the server has not got yet is “held”, by the name of what it is about: the
 * screen's own where none is given.
 */
export function useAct() {
  const write = useWrite();
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const act = async (call: Write, about?: string): Promise<SavedView | "held" | undefined> => {
    setBusy(true);
    setTrouble("");
    try {
      return await write(call, undefined, about);
    } catch (error) {
      if (error instanceof Held) return "held";
      setTrouble(wordsFor(error));
      return undefined;
    } finally {
      setBusy(false);
    }
  };
  return { act, trouble, busy, setTrouble };
}
