import { Label, Radio, RadioGroup } from "@headlessui/react";
import { useLayouts } from "../api/job";
import { Drawing } from "../drawing/Drawing";

type Props = { value: string; onChange: (layout: string) => void };

/** Starting layouts to pick from, each drawn from its own geometry. */
export function LayoutPictures({ value, onChange }: Props) {
  const layouts = useLayouts();
  return (
    <RadioGroup value={value} onChange={onChange}>
      <Label className="label block">layout, from below, front at the top</Label>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {(layouts.data?.pictures ?? []).map((layout) => (
          <Radio
            key={layout.key}
            value={layout.key}
            className="flex cursor-pointer flex-col items-center border-2 border-rule bg-sheet p-1.5 data-checked:border-act data-checked:shadow-[inset_0_4px_0_var(--color-act)] data-focus:outline-3 data-focus:outline-act"
          >
            <Drawing drawing={layout.picture} className="h-36 w-full sm:h-44" />
            <span className="mt-1 text-center text-sm leading-tight">{layout.words}</span>
          </Radio>
        ))}
      </div>
    </RadioGroup>
  );
}
