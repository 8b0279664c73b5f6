import { useId } from "react";
import { useAim } from "./Focus";

type Props = {
  label: string;
  value: string;
  onChange: (value: string) => void;
  unit?: string;
  numeric?: boolean;
  invalid?: boolean;
  onEnter?: () => void;
  hideLabel?: boolean;
  wide?: boolean;
  /** Unit in which a reading of an instrument may go into it; none: it takes no reading. */
  takes?: string;
};

/** An input of a small form that is sent as a whole. */
export function Entry(props: Props) {
  const id = useId();
  const { aim } = useAim();
  const { label, takes, onChange } = props;
  return (
    <div className={props.wide ? "min-w-[min(12rem,100%)] flex-1" : "min-w-0"}>
      <label htmlFor={id} className={props.hideLabel ? "sr-only" : "label block"}>
        {label}
      </label>
      <div className="flex items-center">
        <input
          id={id}
          className={`input w-full min-w-0 tabular-nums ${props.invalid ? "border-blocked" : ""}`}
          value={props.value}
          autoComplete="off"
          inputMode={props.numeric ? "decimal" : "text"}
          onFocus={() =>
            takes && aim({ path: "", label, takes, put: (reading) => onChange(reading.text) })
          }
          onChange={(event) => onChange(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && props.onEnter?.()}
        />
        {props.unit && <span className="ml-1.5 shrink-0 text-sm text-quiet">{props.unit}</span>}
      </div>
    </div>
  );
}
