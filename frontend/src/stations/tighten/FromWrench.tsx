import { useState } from "react";
import { useInstruments } from "../../api/instruments";
import { fromWrench, takeBack, takeReading } from "../../api/tighten";
import type { CardView, TightenView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { usePick } from "../../parts/units";
import { useAct } from "../../parts/useAct";

const NEXT = "";

/** A linked wrench: what it reads goes to the joint that is next, or to another one. */
export function FromWrench({ view }: { view: TightenView }) {
  const instruments = useInstruments("wrench");
  const wrench = instruments.data?.instruments.find((link) => link.key === "wrench");
  const { act, trouble, busy } = useAct();
  const [joint, setJoint] = useState(NEXT);
  const [override, setOverride] = useState("");
  const [put, setPut] = useState("");
  if (!wrench || !view.picked) return null;
  const goes = view.cards.find((c) => c.card.joint === (joint || view.next_joint));
  const step = view.steps.find((s) => s.step.key === `full:${goes?.card.joint}`);
  const send = async () => {
    if (!(await act(fromWrench({ joint, override, accepted: "" })))) return;
    setPut(goes?.card.joint ?? "");
    setJoint(NEXT);
    setOverride("");
  };
  const stood = view.cards.find((c) => c.card.joint === put && c.reading);
  return (
    <section aria-label="Linked wrench" className="mt-3 border-t border-ink pt-2">
      <h3 className="text-lg">From the linked wrench</h3>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <p>
          <span className="label block">{wrench.state}</span>
          <output className="num text-3xl" aria-label={`${wrench.name} reads`}>
            {wrench.shown || "–"} <span className="text-base">{wrench.unit}</span>
          </output>
        </p>
        <div className="w-64">
          <Choice
            label="goes to"
            value={joint}
            options={[NEXT, ...view.cards.map((c) => c.card.joint)]}
            names={namesOf(view)}
            onChange={setJoint}
          />
        </div>
        <Button tone="main" busy={busy} disabled={!goes} onClick={() => void send()}>
          {goes ? `Record it at joint ${goes.card.number}` : "Every joint has its torque"}
        </Button>
      </div>
      {step?.allowed && (
        <div className="mt-2 border border-blocked p-2">
          <p>{step.allowed}</p>
          <Entry label="go on all the same, because" value={override} onChange={setOverride} wide />
        </div>
      )}
      <Trouble words={trouble} />
      {stood && <Moved card={stood} view={view} moved={setPut} />}
    </section>
  );
}

const namesOf = (view: TightenView) => ({
  ...Object.fromEntries(view.cards.map((c) => [c.card.joint, `joint ${c.card.number}`])),
  [NEXT]: "the joint that is next",
});

type MovedProps = { card: CardView; view: TightenView; moved: (joint: string) => void };

/** A reading that was another joint's: taken back where it went, recorded where it belongs. */
function Moved({ card, view, moved }: MovedProps) {
  const { act, trouble, busy } = useAct();
  const pick = usePick();
  const [to, setTo] = useState("");
  const line = card.history.filter((h) => h.kind === "reading").at(-1);
  const other = view.cards.find((c) => c.card.joint === to);
  if (!line || !card.reading) return null;
  const send = async () => {
    if (!other) return;
    const reason = `it was the reading of joint ${other.card.number}`;
    if (!(await act(takeBack({ seq: line.seq, reason })))) return;
    const text = line.torque.metric;
    const body = { joint: to, text, override: "", accepted: "", clicked: false };
    if (await act(takeReading({ ...body, system: "metric" }))) moved(to);
  };
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3" data-testid="recorded">
      <p role="status">
        Recorded at joint {card.card.number}: <b className="num text-xl">{pick(card.reading)}</b>
      </p>
      <div className="w-48">
        <Choice
          label="it was another joint"
          value={to}
          options={view.cards.map((c) => c.card.joint).filter((j) => j !== card.card.joint)}
          names={{ ...namesOf(view), [NEXT]: "which" }}
          onChange={setTo}
        />
      </div>
      <Button busy={busy} disabled={!other} onClick={() => void send()}>
        Put it there
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}
