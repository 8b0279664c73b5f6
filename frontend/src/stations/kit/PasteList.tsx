import { useEffect, useId, useState } from "react";
import { wordsFor } from "../../api/errors";
import { useJobId } from "../../api/job";
import { importLines, previewLines } from "../../api/kit";
import type { CsvPreview } from "../../api/types";
import { Button } from "../../parts/Button";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";

const PAUSE_MS = 300;

/** A sheet's list pasted or read from a CSV file, shown as understood before it is taken in. */
export function PasteList({ close }: { close: () => void }) {
  const id = useId();
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const seen = usePreview(text);
  const send = async () => {
    const done = await act(importLines({ text, system }));
    if (done) close();
  };
  return (
    <section className="mt-2 border border-ink bg-sheet p-3" aria-label="Paste a list">
      <label htmlFor={id} className="label block">
        a line for each part; headings, separator and decimal mark are found out
      </label>
      <textarea
        id={id}
        className="input h-36 w-full py-2 font-mono text-sm"
        value={text}
        spellCheck={false}
        placeholder={
          "name; size; length; head; class; count\nbelly screw; M8; 30; button flange; 10.9; 4"
        }
        onChange={(event) => setText(event.target.value)}
      />
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        aria-label="Read the list from a file"
        onChange={(event) => {
          void event.target.files?.[0]?.text().then(setText);
          event.target.value = "";
        }}
      />
      <Trouble words={seen.trouble} className="mt-2" />
      {seen.preview && <Preview view={seen.preview} />}
      <Trouble words={trouble} className="mt-2" />
      <div className="mt-3 flex gap-2">
        <Button
          tone="main"
          busy={busy}
          disabled={!seen.preview || seen.preview.good === 0}
          onClick={() => void send()}
        >
          Take in {seen.preview?.good ?? 0} lines
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
    </section>
  );
}

/** What the text would become, asked a moment after the last key. */
function usePreview(text: string) {
  const job_id = useJobId();
  const { system } = useUnits();
  const [preview, setPreview] = useState<CsvPreview | null>(null);
  const [trouble, setTrouble] = useState("");
  useEffect(() => {
    if (!text.trim()) {
      setPreview(null);
      return;
    }
    let late = false;
    const timer = setTimeout(() => {
      previewLines(job_id, { text, system })
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
  }, [text, system, job_id]);
  return { preview, trouble };
}

function Preview({ view }: { view: CsvPreview }) {
  const columns = Object.entries(view.columns)
    .map(([heading, field]) => `${heading} → ${field.replace("_mm", "").replace("_", " ")}`)
    .join(", ");
  return (
    <div className="mt-2" data-testid="csv-preview">
      <p className="text-sm text-quiet">
        Split at each {view.separator}. {columns}.
      </p>
      <p>
        <b>{view.good} understood</b>
        {view.bad > 0 ? `, ${view.bad} not: they stay out` : ""}
      </p>
      <ul>
        {view.lines.map((line) => (
          <li key={line.row} className="flex gap-2 border-b border-rule py-1">
            <VerdictMark verdict={line.trouble ? "blocked" : "sound"} quiet />
            <span>
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
