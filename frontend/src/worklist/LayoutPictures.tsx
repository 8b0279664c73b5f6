import { Label, Radio, RadioGroup } from "@headlessui/react";
import type { LayoutsView } from "../api/types";
import { Drawing } from "../drawing/Drawing";

type Props = {
  pictures: LayoutsView["pictures"];
  value: string;
  onChange: (layout: string) => void;
  /** Lower pictures, where other questions stand beside. */
  low?: boolean;
};

/** Starting layouts to pick from, each drawn from its own geometry. */
export function LayoutPictures({ pictures, value, onChange, low = false }: Props) {
  return (
    <RadioGroup value={value} onChange={onChange}>
      <Label className={low ? "sr-only" : "label block"}>
        layout, from below, front at the top
      </Label>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {pictures.map((layout) => (
          <Radio
            key={layout.key}
            value={layout.key}
            className="flex cursor-pointer flex-col items-center border-2 border-rule bg-sheet p-1.5 data-checked:border-act data-checked:shadow-[inset_0_4px_0_var(--color-act)] data-focus:outline-3 data-focus:outline-act"
          >
            <Drawing
              drawing={layout.picture}
              className={`h-36 w-full ${low ? "lg:h-28" : "sm:h-44"}`}
            />
            <span className="mt-1 text-center text-sm leading-tight">{layout.words}</span>
          </Radio>
        ))}
      </div>
    </RadioGroup>
  );
}
