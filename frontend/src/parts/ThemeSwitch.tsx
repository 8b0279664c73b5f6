import { Button } from "./Button";
import { useTheme } from "./theme";

/** Switches between paper by day and slate by night. */
export function ThemeSwitch({ className = "" }: { className?: string }) {
  const { theme, toggle } = useTheme();
  return (
    <Button onClick={toggle} className={className}>
      <span className="sr-only">Switch the light, now </span>
      {theme === "day" ? "day" : "night"}
    </Button>
  );
}
