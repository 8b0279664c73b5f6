import { useState } from "react";
import { addItem, removeItem } from "../../api/job";
import { addPair, adoptWeighing, removePair, useWeighings } from "../../api/survey";
import type { PlateHead, WeighingItem } from "../../api/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { type Reading, useAim } from "../../parts/Focus";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

/** Weighing the difference: pairs with and without, on whatever holds the plate. */
export function WeighingSheet() {
  const weighings = useWeighings();
  const { act, trouble, busy } = useAct();
  if (weighings.isPending) return <Waiting what="the weighings" />;
  if (weighings.isError)
    return <Failed error={weighings.error} retry={() => void weighings.refetch()} />;
  const view = weighings.data;
  return (
    <div className="mx-auto max-w-5xl px-3 py-3 sm:px-5">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-xl">Weigh the difference</h2>
        <Button busy={busy} onClick={() => void act(addItem("weighings"))}>
          Start a weighing
        </Button>
      </div>
      <p className="text-quiet">
        Stand on the scale with the plate and without it, or hang it on a hook and take it off: what
        the holder weighs drops out. Change over each time, so that drift drops out too.
      </p>
      <Trouble words={trouble} />
      {view.weighings.length === 0 && (
        <Empty>No weighing yet. Start one with the plate at hand.</Empty>
      )}
      {view.weighings.map((item) => (
        <Weighing key={item.key} item={item} plates={view.plates} />
      ))}
    </div>
  );
}

function Weighing({ item, plates }: { item: WeighingItem; plates: readonly PlateHead[] }) {
  const { act, trouble } = useAct();
  const names = Object.fromEntries(plates.map((p) => [p.key, p.name]));
  return (
    <section
      aria-label={`Weighing of ${item.name}`}
      className="mt-4 border border-ink bg-sheet p-3"
      data-weighing={item.key}
    >
      <p className="flex flex-wrap items-center gap-2 text-lg" data-testid="weighing-words">
        <VerdictMark verdict={item.verdict} quiet /> <b>{item.words}</b>
      </p>
      <div className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
        {item.fields.map((field) => (
          <Field
            key={field.path}
            field={field}
            names={{ "": "nothing: the plate alone", ...names }}
          />
        ))}
      </div>
      <Pairs item={item} />
      <NewPair item={item} />
      {item.findings.map((f) => (
        <p key={f.text} className="mt-1 flex gap-2">
          <VerdictMark verdict={f.verdict} /> {f.text}
        </p>
      ))}
      {item.warnings.map((words) => (
        <p key={words} className="mt-1 text-quiet">
          {words}
        </p>
      ))}
      {item.figures.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-x-5">
          {item.figures.map((figure) => (
            <span key={figure.key}>
              {figure.label} <Why figure={figure} className="text-xl" />
            </span>
          ))}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          disabled={item.pairs.length === 0}
          onClick={() => void act(adoptWeighing(item.key))}
        >
          Enter the mean as the weighed mass
        </Button>
        <Button tone="quiet" onClick={() => void act(removeItem("weighings", item.key))}>
          Take this weighing out
        </Button>
      </div>
      <Trouble words={trouble} />
    </section>
  );
}

function Pairs({ item }: { item: WeighingItem }) {
  const { act } = useAct();
  if (item.pairs.length === 0) return null;
  return (
    <table className="mt-3 w-full tabular-nums">
      <thead>
        <tr className="border-b border-ink text-left">
          <th scope="col">pair</th>
          <th scope="col">with</th>
          <th scope="col">without</th>
          <th scope="col">difference</th>
          <th scope="col">read on</th>
          <th scope="col">
            <span className="sr-only">take out</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {item.pairs.map((pair, i) => (
          <tr key={pair.key} className="border-b border-rule">
            <th scope="row" className="text-left font-normal">
              {i + 1}
            </th>
            <td>
              <Why figure={pair.with_plate} />
            </td>
            <td>
              <Why figure={pair.without_plate} />
            </td>
            <td>
              <Why figure={pair.difference} />
            </td>
            <td className="text-sm text-quiet">{pair.instrument || "typed"}</td>
            <td className="text-right">
              <Button
                tone="quiet"
                aria-label={`Take out pair ${i + 1}`}
                onClick={() => void act(removePair(item.key, pair.key))}
              >
                Take out
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type Side = "with" | "without";

/** The pair at hand: each reading typed, keyed in by a wedge, or taken from the scale. */
function NewPair({ item }: { item: WeighingItem }) {
  const { system } = useUnits();
  const { act, trouble, busy, setTrouble } = useAct();
  const [texts, setTexts] = useState<Record<Side, string>>({ with: "", without: "" });
  const [from, setFrom] = useState<Reading | null>(null);
  const set = (side: Side, text: string, reading: Reading | null) => {
    setTexts((before) => ({ ...before, [side]: text }));
    setFrom(reading);
    setTrouble("");
  };
  const send = async () => {
    const done = await act(
      addPair(item.key, {
        with_text: texts.with,
        without_text: texts.without,
        system,
        instrument: from?.instrument ?? "",
        at: from?.at ?? "",
      }),
    );
    if (done) setTexts({ with: "", without: "" });
  };
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-end gap-3">
        {(["with", "without"] as const).map((side) => (
          <ReadingEntry key={side} side={side} value={texts[side]} set={set} send={send} />
        ))}
        <Button tone="main" busy={busy} onClick={() => void send()}>
          Add this pair
        </Button>
      </div>
      <Trouble words={trouble} />
    </div>
  );
}

type EntryProps = {
  side: Side;
  value: string;
  set: (side: Side, text: string, reading: Reading | null) => void;
  send: () => Promise<void>;
};

function ReadingEntry({ side, value, set, send }: EntryProps) {
  const { aim } = useAim();
  const { system } = useUnits();
  const label = side === "with" ? "reading with the plate" : "reading without it";
  return (
    <label>
      <span className="label block">{label}</span>
      <span className="flex items-center">
        <input
          className="input w-32 tabular-nums"
          value={value}
          inputMode="decimal"
          autoComplete="off"
          data-reading={side}
          onFocus={() =>
            aim({
              path: `pair.${side}`,
              label,
              takes: "kg",
              put: (reading) => set(side, reading.text, reading),
            })
          }
          onChange={(event) => set(side, event.target.value, null)}
          onKeyDown={(event) => event.key === "Enter" && void send()}
        />
        <span className="ml-1.5 text-sm text-quiet">{system === "us" ? "lb" : "kg"}</span>
      </span>
    </label>
  );
}
