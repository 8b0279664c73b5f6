import {
  Field as HeadlessField,
  Label,
  Listbox,
  ListboxButton,
  ListboxOption,
  ListboxOptions,
} from "@headlessui/react";

type Props = {
  label: string;
  value: string;
  options: readonly string[];
  onChange: (value: string) => void;
  names?: Record<string, string>;
  hideLabel?: boolean;
  invalid?: boolean;
};

/** A choice from a list. */
export function Choice({ label, value, options, onChange, names, hideLabel, invalid }: Props) {
  const name = (option: string) => names?.[option] ?? (option === "" ? "none" : option);
  return (
    <HeadlessField className="min-w-0">
      <Label className={hideLabel ? "sr-only" : "label block"}>{label}</Label>
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          className={`input flex w-full items-center justify-between gap-2 text-left ${invalid ? "border-blocked" : ""}`}
        >
          <span className="truncate">{name(value)}</span>
          <svg viewBox="0 0 10 10" className="size-2.5 shrink-0" aria-hidden="true">
            <path d="M1 3l4 4 4-4" className="stroke-ink" strokeWidth="1.5" fill="none" />
          </svg>
        </ListboxButton>
        <ListboxOptions
          anchor={{ to: "bottom start", gap: 2, padding: 8 }}
          className="z-50 max-h-72! w-(--button-width) min-w-44 overflow-auto border border-ink bg-sheet focus:outline-none"
        >
          {options.map((option) => (
            <ListboxOption
              key={option}
              value={option}
              className="cursor-pointer px-3 py-2 data-focus:bg-act data-focus:text-paper data-selected:font-semibold"
            >
              {name(option)}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </HeadlessField>
  );
}
