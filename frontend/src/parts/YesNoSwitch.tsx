import { Switch } from "@headlessui/react";

type Props = { label: string; on: boolean; set: (on: boolean) => void };

/** A yes-or-no switch with its words beside it. */
export function YesNoSwitch({ label, on, set }: Props) {
  return (
    <Switch
      checked={on}
      onChange={set}
      className="flex min-h-11 cursor-pointer items-center gap-2 text-left"
    >
      <span
        className={`relative h-5 w-9 shrink-0 border border-ink ${on ? "bg-act" : "bg-sheet"}`}
        aria-hidden="true"
      >
        <span
          className={`absolute top-0.5 h-3.5 w-3.5 border border-ink bg-paper ${on ? "right-0.5" : "left-0.5"}`}
        />
      </span>
      <span>{label}</span>
    </Switch>
  );
}
