import { useState } from "react";
import { passFinding } from "../../api/tighten";
import type { TightenView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";

type Ready = TightenView["ready"];
type Missing = Ready["missing"][number];

const SHOWN = 6;
/** Work that is only not done yet: it clears itself, and is not gone past one by one. */
const WORK: readonly Missing["code"][] = ["not torqued", "step open", "no plate picked"];
const keyOf = (m: Missing) => `${m.code} ${m.about} ${m.words}`;

/** What holds from riding, gravest first, each with what clears it; then what is ridden with. */
export function ReadyList({ ready, mayPass }: { ready: Ready; mayPass: boolean }) {
  const [all, setAll] = useState(false);
  const { missing, minds, passed } = ready;
  const shown = all ? missing : missing.slice(0, SHOWN);
  return (
    <>
      <ul aria-label="What is missing">
        {shown.map((m) => (
          <Line key={keyOf(m)} missing={m} mayPass={mayPass} />
        ))}
      </ul>
      {missing.length > SHOWN && (
        <Button tone="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Fold" : `and ${missing.length - SHOWN} more`}
        </Button>
      )}
      {minds.length > 0 && (
        <details className="mt-1">
          <summary className="min-h-11 cursor-pointer py-2">
            {minds.length === 1
              ? "1 thing to ride with in mind"
              : `${minds.length} things to ride with in mind`}
          </summary>
          <ul aria-label="To mind">
            {minds.map((m) => (
              <Line key={keyOf(m)} missing={m} mayPass={false} />
            ))}
          </ul>
        </details>
      )}
      {passed.map((p) => (
        <p key={p.code + p.about + p.at} className="border-l-4 border-mind pl-2">
          {p.at.slice(0, 10)}: {p.words} Passed because {p.reason}
        </p>
      ))}
    </>
  );
}

function Line({ missing, mayPass }: { missing: Missing; mayPass: boolean }) {
  const [open, setOpen] = useState(false);
  const { act, trouble, busy } = useAct();
  const [reason, setReason] = useState("");
  const { code, about } = missing;
  const isWork = WORK.includes(code);
  const send = async () => {
    if (await act(passFinding({ code, about, reason }))) setOpen(false);
  };
  return (
    <li data-finding={code} className="border-b border-rule py-1">
      <VerdictMark verdict={missing.verdict} quiet /> {missing.words}
      {!isWork && <span className="text-quiet"> To clear it: {missing.remedy}.</span>}
      {missing.caution && <p className="border-l-4 border-mind pl-2">{missing.caution}</p>}
      {mayPass && !isWork && (
        <button
          type="button"
          className="ml-2 min-h-6 cursor-pointer text-sm text-act underline underline-offset-4"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          go past it
        </button>
      )}
      {open && (
        <div className="flex flex-wrap items-end gap-2">
          <Entry label="because (kept and printed)" value={reason} onChange={setReason} wide />
          <Button busy={busy} disabled={reason.trim().length < 3} onClick={() => void send()}>
            Past this one
          </Button>
          <Trouble words={trouble} />
        </div>
      )}
    </li>
  );
}
