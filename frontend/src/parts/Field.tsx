import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";
import { useEffect, useId, useRef, useState } from "react";
import type { FieldView } from "../api/types";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { useAim } from "./Focus";
import { useUnits } from "./units";
import { GRADES, type Grade, type SaveStanding, useFieldSave } from "./useFieldSave";
import { YesNoSwitch } from "./YesNoSwitch";

const PAUSE_MS = 600;

function SaveState({ state, id }: { state: SaveStanding; id: string }) {
  if (state.is === "idle" || state.is === "conflict") return null;
  const words = { saving: "saving …", saved: "saved", failed: "", waiting: "" }[state.is];
  const trouble = "words" in state;
  return (
    <p
      id={id}
      role={trouble ? "alert" : "status"}
      className={trouble ? "mt-0.5 text-sm font-semibold text-blocked" : "save-word"}
    >
      {trouble ? state.words : words}
    </p>
  );
}

type Props = {
  field: FieldView;
  label?: string;
  hideLabel?: boolean;
  /** What a person calls the choices. */
  names?: Record<string, string>;
};

/** One field of the job: reads both systems, saves as typed, says how saving went. */
export function Field(props: Props) {
  if (props.field.kind === "choice") return <ChoiceField {...props} />;
  if (props.field.kind === "yes or no") return <SwitchField {...props} />;
  return <TextField {...props} />;
}

/** Choices as they are read: a name of the program with spaces for its underscores. */
const inWords = (choices: readonly string[]) =>
  Object.fromEntries(choices.filter(Boolean).map((c) => [c, c.replaceAll("_", " ")]));

function ChoiceField({ field, label, hideLabel, names }: Props) {
  const { state, save } = useFieldSave(field.path);
  const id = useId();
  return (
    <div className="min-w-0">
      <Choice
        label={label ?? field.label}
        value={field.metric}
        options={field.choices}
        onChange={(value) => void save(value)}
        hideLabel={hideLabel ?? false}
        names={names ?? inWords(field.choices)}
        invalid={state.is === "failed"}
      />
      <SaveState state={state} id={id} />
    </div>
  );
}

/** A yes-or-no fact. */
export function SwitchField({ field, label }: Props) {
  const { state, save } = useFieldSave(field.path);
  const id = useId();
  const on = field.metric === "true";
  return (
    <div>
      <YesNoSwitch label={label ?? field.label} on={on} set={(value) => void save(String(value))} />
      <SaveState state={state} id={id} />
    </div>
  );
}

function Conflict({
  theirs,
  mine,
  keep,
  put,
}: {
  theirs: string;
  mine: string;
  keep: () => void;
  put: () => void;
}) {
  return (
    <div role="alert" className="mt-1 border border-mind p-2 text-sm">
      <p>
        Changed in another window meanwhile. There: <b>{theirs || "nothing"}</b>. Here:{" "}
        <b>{mine}</b>.
      </p>
      <div className="mt-1 flex gap-2">
        <Button onClick={keep}>Keep theirs</Button>
        <Button onClick={put}>Put mine</Button>
      </div>
    </div>
  );
}

const DOUBTED: readonly string[] = ["assumed", "guessed"];

/** How a number is known; a tap says otherwise. */
function HowKnown({
  label,
  known,
  note,
  set,
}: {
  label: string;
  known: string;
  note: string;
  set: (known: Grade) => void;
}) {
  return (
    <Listbox value={known} onChange={(value) => set(value as Grade)}>
      <ListboxButton
        aria-label={`How ${label} is known: ${note}`}
        className={`min-h-6 cursor-pointer text-left text-sm underline decoration-dotted max-sm:min-h-11 underline-offset-4 ${DOUBTED.includes(known) ? "font-semibold" : "text-quiet"}`}
      >
        {note}
      </ListboxButton>
      <ListboxOptions
        anchor={{ to: "bottom start", gap: 2, padding: 8 }}
        className="z-50 min-w-36 border border-ink bg-sheet focus:outline-none"
      >
        {GRADES.map((grade) => (
          <ListboxOption
            key={grade}
            value={grade}
            className="min-h-11 cursor-pointer px-3 py-2 data-focus:bg-paper data-selected:font-semibold"
          >
            {grade}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}

function TextField({ field, label, hideLabel }: Props) {
  const { system } = useUnits();
  const stored = system === "us" ? field.us : field.metric;
  const unit = system === "us" ? field.unit_us : field.unit_metric;
  const allowed = system === "us" ? field.allowed_us : field.allowed_metric;
  const note = system === "us" ? field.note_us : field.note_metric;
  const [text, setText] = useState(stored);
  const [dirty, setDirty] = useState(false);
  const { state, setState, save, unsent, forget } = useFieldSave(field.path);
  const pause = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  /** What stood here when typing began. */
  const began = useRef<string | undefined>(undefined);
  const { aim, ghost } = useAim();
  const id = useId();
  useEffect(() => {
    if (!dirty) setText(stored);
  }, [stored, dirty]);
  useEffect(() => () => clearTimeout(pause.current), []);
  useEffect(() => {
    // After a reload: what was typed and never reached the server is taken up again.
    const left = unsent();
    if (!left) return;
    setText(left.text);
    setDirty(true);
    void save(left.text, left.key).then((ok) => ok && setDirty(false));
  }, [unsent, save]);

  const commit = (value: string) => {
    clearTimeout(pause.current);
    if (!dirty && value === stored) return;
    // The screen follows other devices: what they put here while it was typed is asked about.
    const isPassed = began.current !== undefined && began.current !== stored;
    if (isPassed && value !== stored) setState({ is: "conflict", theirs: stored });
    else put(value);
  };
  const put = (value: string) => void save(value).then((ok) => ok && settle());
  const settle = () => {
    began.current = undefined;
    setDirty(false);
    ghost(null);
  };
  const revert = () => {
    clearTimeout(pause.current);
    forget();
    settle();
    setText(stored);
    setState({ is: "idle" });
  };
  const trouble = state.is === "failed" || state.is === "waiting";
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "label block"}>
        {label ?? field.label}
      </label>
      <div className="flex items-center">
        <input
          id={id}
          value={text}
          inputMode={field.kind === "number" ? "decimal" : "text"}
          autoComplete="off"
          className={`input w-full min-w-0 tabular-nums ${trouble ? "border-blocked" : ""}`}
          aria-invalid={state.is === "failed"}
          aria-describedby={`${id}-state ${id}-allowed`}
          data-path={field.path}
          onFocus={() =>
            aim({
              path: field.path,
              label: label ?? field.label,
              takes: field.takes,
              put: (reading) => {
                setText(reading.text);
                setDirty(true);
                void save(reading.text, undefined, reading).then((ok) => ok && settle());
              },
            })
          }
          onChange={(event) => {
            const value = event.target.value;
            began.current ??= stored;
            setText(value);
            setDirty(true);
            ghost(value.trim() ? { path: field.path, text: value } : null);
            clearTimeout(pause.current);
            if (value.trim()) pause.current = setTimeout(() => commit(value), PAUSE_MS);
          }}
          onBlur={() => dirty && state.is !== "conflict" && !trouble && commit(text)}
          onKeyDown={(event) => {
            if (event.key === "Enter") commit(text);
            if (event.key === "Escape") revert();
          }}
        />
        {unit && <span className="ml-1.5 w-9 shrink-0 text-sm text-quiet">{unit}</span>}
      </div>
      <span id={`${id}-allowed`} className="sr-only">
        Allowed: {allowed}
      </span>
      {note && (
        <HowKnown
          label={label ?? field.label}
          known={field.known}
          note={note}
          set={(known) => void save(text, undefined, undefined, known)}
        />
      )}
      <SaveState state={state} id={`${id}-state`} />
      {state.is === "failed" && (
        <p className="text-sm">
          Kept: {stored || "nothing"} {unit}{" "}
          <button
            type="button"
            className="min-h-6 cursor-pointer text-act underline"
            onClick={revert}
          >
            put it back
          </button>
        </p>
      )}
      {state.is === "conflict" && (
        <Conflict theirs={state.theirs} mine={text} keep={revert} put={() => put(text)} />
      )}
    </div>
  );
}
