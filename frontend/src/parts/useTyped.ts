import { useState } from "react";

/** What was typed into a page that is sent as a whole; a reload of the page keeps it. */
export function useTyped<T extends Record<string, string>>(name: string, start: T) {
  const [typed, setTyped] = useState<T>(() => ({ ...start, ...kept(name) }));
  const set = (part: Partial<T>) => {
    const next = { ...typed, ...part };
    setTyped(next);
    sessionStorage.setItem(name, JSON.stringify(next));
  };
  const clear = () => {
    setTyped(start);
    sessionStorage.removeItem(name);
  };
  return { typed, set, clear };
}

function kept(name: string): Record<string, string> {
  const found: unknown = JSON.parse(sessionStorage.getItem(name) ?? "{}");
  return typeof found === "object" && found !== null ? (found as Record<string, string>) : {};
}
