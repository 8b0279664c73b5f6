import { useEffect, useRef, useState } from "react";
import { photoAt } from "../api/files";
import { useJobId } from "../api/job";
import { noteText } from "../api/keep";
import { reopenStage, threadDamaged } from "../api/tighten";
import type { CardView, StepView, TightenView } from "../api/types";
import { Button } from "../parts/Button";
import { Entry } from "../parts/Entry";
import { PhotoPick } from "../parts/PhotoPick";
import { Trouble } from "../parts/Trouble";
import { useAct } from "../parts/useAct";
import { OpenRegister } from "../stations/tighten/OpenRegister";

type Asked = { view: TightenView; step: StepView; card: CardView | undefined };

const DAMAGED = "its thread is damaged";
const LOOSE = "its stage must come loose again";
const WORDS = "a word about this step";

/** Where a screw will not go as planned: what to do, and back to the step. */
export function Exits({ view, step, card }: Asked) {
  const [open, setOpen] = useState("");
  const answer = useRef<HTMLDivElement>(null);
  const { joint } = step.step;
  // What a press opens lies below the buttons, and on a phone under the bar: it is brought up.
  useEffect(() => {
    if (open) answer.current?.scrollIntoView?.({ block: "nearest" });
  }, [open]);
  const ways = joint ? [...Object.keys(view.troubles), LOOSE, WORDS] : [WORDS];
  return (
    <div className="mt-3">
      <div className="flex flex-wrap gap-2">
        {ways.map((what) => (
          <Button
            key={what}
            className="min-h-14!"
            aria-expanded={open === what}
            onClick={() => setOpen(open === what ? "" : what)}
          >
            {what}
          </Button>
        ))}
      </div>
      <div ref={answer}>
        {open && view.troubles[open] && (
          <ol className="my-2 list-decimal border-l-[6px] border-blocked bg-sheet py-2 pl-8 text-lg">
            {view.troubles[open]?.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
        )}
        {open === DAMAGED && card && card.state !== "thread damaged" && (
          <Damaged joint={joint} close={() => setOpen("")} />
        )}
        {open === LOOSE && <Loosen view={view} step={step} close={() => setOpen("")} />}
        {open === WORDS && <Words step={step} close={() => setOpen("")} />}
      </div>
      <OpenRegister view={view} />
    </div>
  );
}

/** The thread of this joint is damaged: it is written down, and the joint stays open. */
function Damaged({ joint, close }: { joint: string; close: () => void }) {
  const { act, trouble, busy } = useAct();
  const [what, setWhat] = useState("");
  const send = async () => {
    if (await act(threadDamaged({ joint, what }))) close();
  };
  return (
    <div className="my-2 border-l-[6px] border-blocked bg-sheet p-2 text-lg">
      <Entry label="what is to be seen (if you can say)" value={what} onChange={setWhat} wide />
      <Button className="mt-2 min-h-14! w-full" busy={busy} onClick={() => void send()}>
        It is damaged: the joint stays open
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}

type ExitProps = { step: StepView; close: () => void };

/** “Rear first blocked the front: back out”: the stage's joints start anew. */
function Loosen({ view, step, close }: ExitProps & { view: TightenView }) {
  const { act, trouble, busy } = useAct();
  const [reason, setReason] = useState("");
  const stage = step.step.stage;
  const send = async () => {
    if (await act(reopenStage({ stage, reason }))) close();
  };
  return (
    <div className="my-2 border-l-[6px] border-blocked bg-sheet p-2 text-lg">
      <p>
        Back out every screw of “{view.stages[stage] ?? stage}” until it is loose. Their torques no
        longer count; the lines stay.
      </p>
      <Entry label="because" value={reason} onChange={setReason} wide />
      <Button
        className="mt-2 min-h-14! w-full"
        busy={busy}
        disabled={reason.trim().length < 3}
        onClick={() => void send()}
      >
        They are loose
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}

function Words({ step, close }: ExitProps) {
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const [photo, setPhoto] = useState("");
  const job = useJobId();
  const send = async () => {
    const words = text.trim() ? `${step.step.title}: ${text}` : step.step.title;
    if (await act(noteText({ text: words, photo, step: step.step.key }))) close();
  };
  return (
    <div className="my-2 grid gap-2 border-l-4 border-rule bg-sheet p-2 sm:grid-cols-2 sm:items-end">
      <Entry label={WORDS} value={text} onChange={setText} wide onEnter={() => void send()} />
      <PhotoPick words={photo ? "Another photo" : "With a photo"} took={setPhoto} />
      {photo && <img src={photoAt(job, photo)} alt="To be kept" className="max-h-28" />}
      <Button
        className="min-h-14!"
        busy={busy}
        disabled={text.trim().length < 2 && !photo}
        onClick={() => void send()}
      >
        Keep it
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}
