import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { wordsFor } from "../api/errors";
import { startJob } from "../api/job";
import { newKey } from "../api/writes";
import { useUnits } from "../parts/units";

type Said = Omit<Parameters<typeof startJob>[0], "key" | "system">;

/** Begins a job from what was said of its bike, one time however often it is sent. */
export function useStart(begun: (job: string) => void) {
  const queries = useQueryClient();
  const { system } = useUnits();
  const key = useRef(newKey());
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const start = async (said: Said) => {
    setBusy(true);
    setTrouble("");
    try {
      const made = await startJob({ ...said, system, key: key.current });
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      begun(made.id);
    } catch (error) {
      setTrouble(wordsFor(error));
    } finally {
      setBusy(false);
    }
  };
  return { start, trouble, busy };
}
