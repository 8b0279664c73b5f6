import type { SizeAsk } from "../api/types";
import { Drawing } from "../drawing/Drawing";
import { Button } from "./Button";
import { Entry } from "./Entry";
import { usePick, useUnits } from "./units";

type Props = {
  size: SizeAsk;
  value: string;
  onChange: (value: string) => void;
  onEnter: () => void;
  /** In which unit it is typed; a length's own where it is not given. */
  unit?: string;
};

/** A number to ask for, with where the tape goes; “I do not know” is an answer. */
export function AskSize({ size, value, onChange, onEnter, unit }: Props) {
  const pick = usePick();
  const { system } = useUnits();
  return (
    <div className="min-w-0">
      {size.sketch && <Drawing drawing={size.sketch} className="mb-1 h-28 w-full" />}
      <Entry
        label={size.label}
        value={value}
        onChange={onChange}
        onEnter={onEnter}
        unit={unit ?? (system === "us" ? "in" : "mm")}
        numeric
      />
      {value === "" ? (
        <p className="min-h-11 py-2 text-sm text-quiet">
          Not known: {pick(size.usual)} is taken, as usual.
        </p>
      ) : (
        <Button
          tone="quiet"
          onClick={() => onChange("")}
          aria-label={`I do not know: ${size.label}`}
        >
          I do not know
        </Button>
      )}
    </div>
  );
}
