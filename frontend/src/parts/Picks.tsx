import { Label, Radio, RadioGroup } from "@headlessui/react";
import type { ReactNode } from "react";

export type Pick = { key: string; words: string; more?: ReactNode; picture?: ReactNode };
type Props = {
  label: string;
  picks: readonly Pick[];
  value: string;
  onChange: (key: string) => void;
  className?: string;
};

/** One of a few: each in words, with a picture where there is one. */
export function Picks({ label, picks, value, onChange, className = "" }: Props) {
  return (
    <RadioGroup value={value} onChange={onChange}>
      <Label className="sr-only">{label}</Label>
      <div className={`grid gap-2 ${className}`}>
        {picks.map((pick) => (
          <Radio
            key={pick.key}
            value={pick.key}
            className="flex min-h-12 cursor-pointer flex-col justify-center border-2 border-rule bg-sheet px-3 py-1.5 data-checked:border-act data-checked:shadow-[inset_4px_0_0_var(--color-act)] data-focus:outline-3 data-focus:outline-act"
          >
            {pick.picture}
            <span className="font-semibold">{pick.words}</span>
            {pick.more && <span className="text-sm text-quiet">{pick.more}</span>}
          </Radio>
        ))}
      </div>
    </RadioGroup>
  );
}
