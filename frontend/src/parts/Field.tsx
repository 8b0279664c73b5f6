import { Switch } from "@headlessui/react";
import { useCallback, useEffect, useId, useRef, useState } from "react";
import { api, type FieldView, Refusal, Unreachable, unwrap } from "../api/client";
import { newKey, useJobId, useWrite, wordsFor } from "../api/hooks";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { useUnits } from "./units";

const PAUSE_MS = 600;
const RETRY_MS = 3000;

type State =
  | { is: "idle" | "saving" | "saved" }
  | { is: "failed"; words: string }
  | { is: "waiting"; words: string }
  | { is: "conflict"; theirs: string };

/** Entries that could not be sent yet are kept on this device until they are. */
const waitingKey = (job: string, path: string) => `shield-unsent:${job}:${path}`;

/** Saves one field's text: autosave, retry when the server is gone, choice on a conflict. */
function useFieldSave(path: string) {
  const { system } = useUnits();
  const write = useWrite();
  const stored = waitingKey(useJobId(), path);
  const [state, setState] = useState<State>({ is: "idle" });
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const save = useCallback(
    async (text: string, key: string = newKey()): Promise<boolean> => {
      clearTimeout(timer.current);
      setState({ is: "saving" });
      try {
        await write(
          (job_id, base) =>
            unwrap(
              api.PATCH("/api/jobs/{job_id}/field", {
                params: { path: { job_id } },
                body: { ...base, path, text, system },
              }),
            ),
          key,
        );
        localStorage.removeItem(stored);
        setState({ is: "saved" });
        return true;
      } catch (error) {
        if (!(error instanceof Unreachable)) localStorage.removeItem(stored);
        if (error instanceof Unreachable) {
          localStorage.setItem(stored, JSON.stringify({ text, key }));
          setState({ is: "waiting", words: "Not saved yet: no answer. Trying again …" });
          timer.current = setTimeout(() => void save(text, key), RETRY_MS);
        } else if (error instanceof Refusal && error.status === 409) {
          setState({ is: "conflict", theirs: error.answer.newer?.value ?? "" });
        } else {
          setState({ is: "failed", words: wordsFor(error) });
        }
        return false;
      }
    },
    [path, system, write, stored],
  );
  const unsent = useCallback((): { text: string; key: string } | null => {
    const found = localStorage.getItem(stored);
    return found ? (JSON.parse(found) as { text: string; key: string }) : null;
  }, [stored]);
  const forget = useCallback(() => {
    clearTimeout(timer.current);
    localStorage.removeItem(stored);
  }, [stored]);
  return { state, setState, save, unsent, forget };
}

function SaveState({ state, id }: { state: State; id: string }) {
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

type Props = { field: FieldView; label?: string; hideLabel?: boolean };

/** One field of the job: reads both systems, saves as typed, says how saving went. */
export function Field(props: Props) {
  if (props.field.kind === "choice") return <ChoiceField {...props} />;
  if (props.field.kind === "yes or no") return <SwitchField {...props} />;
  return <TextField {...props} />;
}

function ChoiceField({ field, label, hideLabel }: Props) {
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
      <Switch
        checked={on}
        onChange={(value: boolean) => void save(String(value))}
        className="flex min-h-11 cursor-pointer items-center gap-2"
      >
        <span
          className={`relative h-5 w-9 border border-ink ${on ? "bg-act" : "bg-sheet"}`}
          aria-hidden="true"
        >
          <span
            className={`absolute top-0.5 h-3.5 w-3.5 border border-ink bg-paper ${on ? "right-0.5" : "left-0.5"}`}
          />
        </span>
        <span>{label ?? field.label}</span>
      </Switch>
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

function TextField({ field, label, hideLabel }: Props) {
  const { system } = useUnits();
  const stored = system === "us" ? field.us : field.metric;
  const unit = system === "us" ? field.unit_us : field.unit_metric;
  const allowed = system === "us" ? field.allowed_us : field.allowed_metric;
  const [text, setText] = useState(stored);
  const [dirty, setDirty] = useState(false);
  const { state, setState, save, unsent, forget } = useFieldSave(field.path);
  const pause = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
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
    void save(value).then((ok) => ok && setDirty(false));
  };
  const revert = () => {
    clearTimeout(pause.current);
    forget();
    setDirty(false);
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
          onChange={(event) => {
            const value = event.target.value;
            setText(value);
            setDirty(true);
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
        <Conflict theirs={state.theirs} mine={text} keep={revert} put={() => commit(text)} />
      )}
    </div>
  );
}
