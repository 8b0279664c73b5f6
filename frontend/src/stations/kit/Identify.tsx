import { keepPreviousData, skipToken, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Refusal, wordsFor } from "../../api/errors";
import { useJobId } from "../../api/job";
import { countLine, identifyScrew } from "../../api/kit";
import type { Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { FocusProvider } from "../../parts/Focus";
import { Tray } from "../../parts/Tray";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { useSettled } from "../../parts/useSettled";
import { commonScale } from "./scale";

const PAUSE_MS = 200;
const WIDEST_PX = 200;
const NOTHING = { diameter: "", pitch: "", length: "", head_diameter: "", head_form: "" };
type Read = typeof NOTHING;
type MayBe = Schemas["MayBe"];
/** What a screw that no line has would be entered as. */
export type Found = { thread: string; length: string };

const ENTRIES = [
  ["diameter", "diameter of the thread"],
  ["length", "length"],
  ["pitch", "pitch"],
  ["head_diameter", "diameter of the head"],
] as const;

type Props = {
  forms: readonly string[];
  close: () => void;
  onNew: (found: Found) => void;
};

/** A screw in the hand: what was read on it, the lines that it may be, what to read next. */
export function Identify({ forms, close, onNew }: Props) {
  const { system } = useUnits();
  const [read, setRead] = useState<Read>(NOTHING);
  const { view, error } = useIdentified(read);
  const unit = system === "us" ? "in" : "mm";
  return (
    <FocusProvider>
      <section className="mt-2 border border-ink bg-sheet p-3" aria-label="Identify a screw">
        <p className="text-quiet">
          Read what you can; it says which line it is, or what to read next.
        </p>
        <div className="mt-2 grid grid-cols-2 items-end gap-3 md:grid-cols-5">
          {ENTRIES.map(([name, label]) => (
            <Entry
              key={name}
              label={label}
              value={read[name]}
              onChange={(text) => setRead((now) => ({ ...now, [name]: text }))}
              unit={unit}
              takes="mm"
              numeric
            />
          ))}
          <Choice
            label="form of the head"
            value={read.head_form}
            options={["", ...forms]}
            names={{ "": "not seen" }}
            onChange={(head_form) => setRead((now) => ({ ...now, head_form }))}
          />
        </div>
        {error && <Trouble words={wordsFor(error)} className="mt-2" />}
        {view && (
          <div className="mt-3" aria-live="polite" data-testid="identified">
            <p className="text-lg">
              <b>{view.words}</b>
            </p>
            <ul>
              {view.agree.map((line) => (
                <Candidate
                  key={line.key}
                  line={line}
                  scale={commonScale(view.agree, WIDEST_PX, 3)}
                  again={() => setRead(NOTHING)}
                />
              ))}
            </ul>
          </div>
        )}
        <div className="mt-3 flex flex-wrap gap-2">
          <Button onClick={() => setRead(NOTHING)}>Next screw</Button>
          <Button onClick={() => onNew({ thread: view?.foreign[0] ?? "", length: read.length })}>
            This is not on the list
          </Button>
          <Button onClick={close}>Done</Button>
        </div>
        <Tray only="calliper" />
      </section>
    </FocusProvider>
  );
}

/** Asked a moment after the last key; what was said stays until there is something new. */
function useIdentified(read: Read) {
  const job_id = useJobId();
  const { system } = useUnits();
  const settled = useSettled(read, PAUSE_MS);
  const anything = Object.values(settled).some((text) => text.trim());
  const query = useQuery({
    queryKey: ["identify", job_id, settled, system],
    placeholderData: keepPreviousData,
    retry: (count, error) => !(error instanceof Refusal) && count < 1,
    gcTime: 0,
    queryFn: anything ? () => identifyScrew(job_id, { ...settled, system }) : skipToken,
  });
  return { view: anything ? query.data : undefined, error: query.error };
}

function Candidate({ line, scale, again }: { line: MayBe; scale: number; again: () => void }) {
  const { act, trouble, busy } = useAct();
  const more = String((line.counted ?? 0) + 1);
  const count = async () => {
    if (await act(countLine({ line: line.key, text: more }))) again();
  };
  return (
    <li className="flex flex-wrap items-center gap-x-4 border-b border-rule py-1">
      <span className="w-52">
        {line.drawing && <Drawing drawing={line.drawing} scale={scale} />}
      </span>
      <span className="num w-28 text-xl">{line.size}</span>
      <span className="min-w-0 flex-1">
        {line.name} <span className="label">{line.head}</span>
        {line.difference && <span className="block text-sm">{line.difference}</span>}
      </span>
      <Button
        busy={busy}
        onClick={() => void count()}
        aria-label={`It is this: ${line.name}, one more`}
      >
        It is this
      </Button>
      <Trouble words={trouble} className="w-full" />
    </li>
  );
}
