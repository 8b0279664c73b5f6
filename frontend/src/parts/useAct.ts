import { useState } from "react";
import { wordsFor } from "../api/errors";
import type { Base, SavedView } from "../api/types";
import { useWrite } from "../api/writes";

/** A button's write: runs it once at a time and keeps what went wrong in words. */
export function useAct() {
  const write = useWrite();
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const act = async (
    call: (job_id: string, base: Base) => Promise<SavedView>,
  ): Promise<SavedView | undefined> => {
    setBusy(true);
    setTrouble("");
    try {
      return await write(call);
    } catch (error) {
      setTrouble(wordsFor(error));
      return undefined;
    } finally {
      setBusy(false);
    }
  };
  return { act, trouble, busy, setTrouble };
}
