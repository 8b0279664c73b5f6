import { useEffect, useId, useRef, useState } from "react";
import { wordsFor } from "../api/errors";
import type { CsvPreview, Write } from "../api/types";
import { Button } from "./Button";
import { FilePick } from "./FilePick";
import { Trouble } from "./Trouble";
import { useUnits } from "./units";
import { useAct } from "./useAct";
import { VerdictMark } from "./Verdict";

const PAUSE_MS = 300;

type Props = {
  /** What the region is called, and what a row is. */
  title: string;
  noun: string;
  label: string;
  placeholder: string;
  /** What the text would become; must not change from render to render. */
  preview: (text: string) => Promise<CsvPreview>;
  take: (text: string) => Write;
  fromFile?: boolean;
  close: () => void;
};

/** A table typed, pasted or read from a file, shown as understood before it is taken in. */
export function TypedTable(props: Props) {
  const id = useId();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const seen = useListPreview(text, props.preview);
  const area = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    // The table has the keys while it is open; after it the work goes on where it was opened,
    // unless it went on elsewhere while the table was taken in.
    const opener = document.activeElement;
    area.current?.focus();
    return () => {
      const isNowhere = document.activeElement === document.body;
      if (opener instanceof HTMLElement && isNowhere) opener.focus();
    };
  }, []);
  const good = seen.preview?.good ?? 0;
  const send = async () => {
    if (await act(props.take(text))) props.close();
  };
  return (
    <section className="mt-2 border border-ink bg-sheet p-3" aria-label={props.title}>
      <label htmlFor={id} className="label block">
        {props.label}
      </label>
      <textarea
        id={id}
        ref={area}
        className="input h-36 w-full py-2 font-mono text-sm"
        value={text}
        spellCheck={false}
        placeholder={props.placeholder}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && props.close()}
      />
      {props.fromFile && <ListFile take={setText} />}
      <Trouble words={seen.trouble} className="mt-2" />
      {seen.preview && <ListPreview view={seen.preview} />}
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-3 flex gap-2">
        <Button tone="main" busy={busy} disabled={good === 0} onClick={() => void send()}>
          Take in {good} {props.noun}
          {good === 1 ? "" : "s"}
        </Button>
        <Button onClick={props.close}>Leave it</Button>
      </div>
    </section>
  );
}

/** What the text would become, asked a moment after the last key. */
export function useListPreview(text: string, ask: (text: string) => Promise<CsvPreview>) {
  const { system } = useUnits();
  const [preview, setPreview] = useState<CsvPreview | null>(null);
  const [trouble, setTrouble] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: another unit reads the same text anew
  useEffect(() => {
    if (!text.trim()) {
      setPreview(null);
      setTrouble("");
      return;
    }
    let late = false;
    const timer = setTimeout(() => {
      ask(text)
        .then((found) => {
          if (late) return;
          setPreview(found);
          setTrouble("");
        })
        .catch((error: unknown) => !late && setTrouble(wordsFor(error)));
    }, PAUSE_MS);
    return () => {
      late = true;
      clearTimeout(timer);
    };
  }, [text, ask, system]);
  return { preview, trouble };
}

/** The list from a file, as if its text was pasted. */
export function ListFile({ take }: { take: (text: string) => void }) {
  return (
    <div className="mt-2">
      <FilePick
        words="Read the list from a file"
        accept=".csv,.tsv,.txt,text/csv"
        pick={(file) => void file.text().then(take)}
      />
    </div>
  );
}

/** A list row by row: what it would become, and what is not understood. */
export function ListPreview({ view }: { view: CsvPreview }) {
  const columns = Object.entries(view.columns)
    .map(([heading, field]) => `${heading} → ${field.replace("_mm", "").replaceAll("_", " ")}`)
    .join(", ");
  return (
    <div className="mt-2" data-testid="csv-preview">
      {columns && (
        <p className="text-sm text-quiet">
          Split at each {view.separator}. {columns}.
        </p>
      )}
      <p>
        <b>{view.good} understood</b>
        {view.bad > 0 ? `, ${view.bad} not: left out` : ""}
      </p>
      <ul>
        {view.lines.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a line can hold two parts
          <li key={`${line.row}-${i}`} className="flex gap-2 border-b border-rule py-1">
            <VerdictMark verdict={line.trouble ? "blocked" : line.sure ? "sound" : "mind"} quiet />
            <span className="min-w-0">
              <span className="text-quiet">line {line.row}:</span> {line.words}
              {line.trouble && <b className="text-blocked">{line.trouble}</b>}
              {line.assumed && <span className="block text-sm">{line.assumed}</span>}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
