import { Button } from "../parts/Button";
import { ThemeSwitch } from "../parts/ThemeSwitch";
import { useUnits } from "../parts/units";

/** Unit switch and shortcut sheet; on every screen. */
export function Tools({ openSheet }: { openSheet: () => void }) {
  const { system, toggle } = useUnits();
  return (
    <>
      <Button onClick={toggle}>
        <span className="sr-only">Switch units, now </span>
        <span className="sm:hidden">{system === "us" ? "in" : "mm"}</span>
        <span className="hidden sm:inline">
          {system === "us" ? "in · lb · ft·lb" : "mm · kg · N·m"}
        </span>
      </Button>
      <ThemeSwitch />
      <Button onClick={openSheet} className="hidden sm:inline-block">
        ?<span className="sr-only"> show the keys</span>
      </Button>
    </>
  );
}
