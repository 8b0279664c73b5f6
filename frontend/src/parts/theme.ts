import { useEffect, useState } from "react";

export type Theme = "day" | "night";
const STORED = "shield-theme";

const chosen = (): Theme => {
  const stored = localStorage.getItem(STORED);
  if (stored === "day" || stored === "night") return stored;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "night" : "day";
};

/** Day or night; the device's own wish until someone chooses here. */
export function useTheme() {
  const [theme, setTheme] = useState<Theme>(chosen);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  const toggle = () => {
    const next = theme === "day" ? "night" : "day";
    localStorage.setItem(STORED, next);
    setTheme(next);
  };
  return { theme, toggle };
}
