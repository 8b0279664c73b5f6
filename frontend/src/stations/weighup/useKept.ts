import { useCallback, useState } from "react";

/** A set of words remembered on this device: what is folded, what is pinned. */
export function useKept(name: string, first: readonly string[]) {
  const [kept, setKept] = useState<ReadonlySet<string>>(() => {
    const stored = localStorage.getItem(name);
    return new Set(stored === null ? first : (JSON.parse(stored) as string[]));
  });
  const toggle = useCallback(
    (word: string) =>
      setKept((now) => {
        const next = new Set(now);
        if (!next.delete(word)) next.add(word);
        localStorage.setItem(name, JSON.stringify([...next]));
        return next;
      }),
    [name],
  );
  return [kept, toggle] as const;
}
