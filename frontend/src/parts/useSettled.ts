import { useEffect, useState } from "react";

/** The value once it has stood still for a while: what is costly is not asked at every key. */
export function useSettled<T>(value: T, pause_ms: number): T {
  const [settled, setSettled] = useState(value);
  const words = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(words) as T), pause_ms);
    return () => clearTimeout(timer);
  }, [words, pause_ms]);
  return settled;
}
