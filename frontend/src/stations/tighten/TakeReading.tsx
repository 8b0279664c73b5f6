import { useEffect, useState } from "react";
import { jointRenewed, passFinding, takeBack, takeReading } from "../../api/tighten";
import type { CardView, StepView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { usePick, useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";

type Props = { card: CardView; step: StepView; next?: () => void };

/** A joint's reading entered; `next` is called when one stands that closes the step. */
export function TakeReading({ card, step, next }: Props) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const [text, setText] = useState("");
  const [override, setOverride] = useState("");
  const [sent, setSent] = useState(false);
  const send = async (nm = text, clicked = false) => {
    const body = { joint: card.card.joint, text: nm, system, override, accepted: "", clicked };
    const done = await act(takeReading(body));
    if (!done) return;
    setText("");
    if (done === "held") next?.();
    else setSent(true);
  };
  // Only a reading that stands leads on: the server says so with the step that it closes.
  useEffect(() => {
    if (!sent || !step.done || card.over.length > 0) return;
    setSent(false);
    next?.();
  }, [sent, step.done, card.over.length, next]);
  if (card.state === "thread damaged") return <MadeGood joint={card.card.joint} />;
  return (
    <section aria-label="Reading">
      {next && card.reading && (
        <p className="mb-1 text-lg">
          Recorded: <b className="num text-2xl">{pick(card.reading)}</b>
          {card.reading.findings.map((f) => (
            <span key={f.code}>
              {" "}
              <VerdictMark verdict={f.verdict} /> {f.text}
            </span>
          ))}
        </p>
      )}
      <TooMuch card={card} />
      {step.allowed && (
        <div className="mb-2 border border-blocked p-2">
          <p>{step.allowed}</p>
          <Entry label="go on all the same, because" value={override} onChange={setOverride} wide />
        </div>
      )}
      <div className="flex flex-wrap items-end gap-3">
        <Entry
          label={`reading, band ${pick(card.low)} to ${pick(card.high)}`}
          value={text}
          onChange={setText}
          unit={system === "us" ? "ft·lb" : "N·m"}
          numeric
          onEnter={() => void send()}
        />
        <Button
          tone="main"
          className="min-h-16! flex-1 text-2xl"
          busy={busy}
          onClick={() => void send()}
        >
          Record reading
        </Button>
        {text === "" && !step.done && (
          <Button
            className="min-h-16! flex-1 text-xl"
            busy={busy}
            onClick={() => void send("", true)}
          >
            It clicked at {pick(card.setting)}
          </Button>
        )}
      </div>
      <Trouble words={trouble} className="mt-2 text-lg" />
    </section>
  );
}

/** A joint torqued above its limit stops here until a new screw is in or a reason is given. */
function TooMuch({ card }: { card: CardView }) {
  const { act, trouble, busy } = useAct();
  const [why, setWhy] = useState("");
  const last = card.over.at(-1);
  if (last === undefined) return null;
  const { joint } = card.card;
  const stands = { code: "torqued above its limit", about: joint, reason: why };
  return (
    <div role="alert" className="mb-2 border-2 border-blocked p-2 text-lg">
      <p>
        <VerdictMark verdict="blocked" /> Stop: do not go on with this joint as it is.
      </p>
      <Button
        className="mt-2 min-h-14! w-full text-xl"
        busy={busy}
        onClick={() => void act(jointRenewed({ joint, how: "new screw after too much torque" }))}
      >
        A new screw is in: torque it anew
      </Button>
      <Button
        className="mt-2 min-h-14! w-full text-xl"
        busy={busy}
        onClick={() => void act(takeBack({ seq: last, reason: "mistyped" }))}
      >
        I mistyped it
      </Button>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Entry label="or it stands, because" value={why} onChange={setWhy} wide />
        <Button
          className="min-h-14!"
          disabled={why.trim().length < 3}
          onClick={() => void act(passFinding(stands))}
        >
          Keep it
        </Button>
      </div>
      <Trouble words={trouble} className="mt-2" />
    </div>
  );
}

/** A damaged thread takes no torque: first what was done about it. */
function MadeGood({ joint }: { joint: string }) {
  const { act, trouble, busy } = useAct();
  const [how, setHow] = useState("");
  return (
    <div role="alert" className="border-2 border-blocked p-2 text-lg">
      <p>
        <VerdictMark verdict="blocked" /> Its thread is damaged: nothing is torqued on it.
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Entry
          label="what was done: a new screw, a nut, an insert"
          value={how}
          onChange={setHow}
          wide
        />
        <Button
          className="min-h-14!"
          busy={busy}
          disabled={how.trim().length < 3}
          onClick={() => void act(jointRenewed({ joint, how }))}
        >
          It is made good and in by hand
        </Button>
      </div>
      <Trouble words={trouble} className="mt-2" />
    </div>
  );
}
