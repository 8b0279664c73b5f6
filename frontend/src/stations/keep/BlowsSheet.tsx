import { useState } from "react";
import { noteBlow, notePart, useBlow } from "../../api/keep";
import type { KeepView, Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { tappedAt } from "../../drawing/tapped";
import { Button } from "../../parts/Button";
import { Entry } from "../../parts/Entry";
import { Findings } from "../../parts/Findings";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { usePick, useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { WearChart } from "./WearChart";
import { WithKeep } from "./withKeep";

type Blow = Schemas["BlowView"];
type Spot = { x: number; y: number };

/** Blows on the plate where they fell, what they left, and how it wears. */
export function BlowsSheet() {
  return <WithKeep>{(view) => <Sheet view={view} />}</WithKeep>;
}

function Sheet({ view }: { view: KeepView }) {
  const [spot, setSpot] = useState<Spot | null>(null);
  return (
    <div className="grid gap-x-6 gap-y-3 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
      <section aria-label="Where it was struck">
        <h2 className="text-xl">Tap where it was struck</h2>
        {/* biome-ignore lint/a11y/noStaticElementInteractions: typed places do the same */}
        {/* biome-ignore lint/a11y/useKeyWithClickEvents: typed places do the same */}
        <div className="relative" onClick={(event) => setSpot(tappedAt(event))}>
          <Drawing
            drawing={view.struck}
            without={["part", "mount"]}
            className="h-96 w-full cursor-crosshair lg:h-[32rem]"
          />
        </div>
        <Button
          className="mt-2"
          onClick={() => setSpot({ x: 0, y: view.struck.y + view.struck.height / 2 })}
        >
          Type the place instead
        </Button>
      </section>
      <div className="min-w-0">
        {spot && <NewBlow view={view} spot={spot} set={setSpot} />}
        <h2 className="border-b border-ink text-xl">
          {view.blows.length === 0 ? "No blow told yet" : "Blows"}
        </h2>
        <ol aria-label="Blows">
          {[...view.blows].reverse().map((blow) => (
            <BlowLine key={blow.seq} blow={blow} mended={view.mended} />
          ))}
        </ol>
        <h2 className="mt-4 border-b border-ink text-xl">Wear</h2>
        {view.worn.map((worn) => (
          <WearChart key={worn.place} worn={worn} />
        ))}
      </div>
    </div>
  );
}

function NewBlow({
  view,
  spot,
  set,
}: {
  view: KeepView;
  spot: Spot;
  set: (s: Spot | null) => void;
}) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [felt, setFelt] = useState("not felt");
  const [dent, setDent] = useState("");
  const [note, setNote] = useState("");
  const send = async () => {
    const body = { x_drawn: spot.x, y_drawn: spot.y, felt, dent, note, system };
    if (await act(noteBlow(body))) set(null);
  };
  const typed = (way: "x" | "y") => (text: string) => {
    const value = Number(text);
    if (text !== "" && Number.isFinite(value))
      set({ ...spot, [way]: way === "x" ? -value : value });
  };
  return (
    <section aria-label="A blow" className="mb-3 border border-ink bg-sheet p-3">
      <h2 className="text-xl">How did it feel?</h2>
      <div className="my-2 grid grid-cols-2 gap-2">
        {view.felt.map((words) => (
          <Button
            key={words}
            tone={felt === words ? "main" : "plain"}
            aria-pressed={felt === words}
            className="min-h-14!"
            onClick={() => setFelt(words)}
          >
            {words}
          </Button>
        ))}
      </div>
      <div className="grid items-end gap-2 sm:grid-cols-3">
        <Entry
          label="dent, measured (0: none)"
          value={dent}
          onChange={setDent}
          unit={system === "us" ? "in" : "mm"}
          numeric
          takes="mm"
        />
        <Entry
          label="behind the front axle, mm"
          value={String(Math.round(spot.y))}
          onChange={typed("y")}
          numeric
        />
        <Entry
          label="to the right, mm"
          value={String(Math.round(-spot.x))}
          onChange={typed("x")}
          numeric
        />
        <Entry label="a word about it" value={note} onChange={setNote} />
      </div>
      <div className="mt-3 flex gap-2">
        <Button
          tone="main"
          className="min-h-14! flex-1 text-xl"
          busy={busy}
          onClick={() => void send()}
        >
          Keep this blow
        </Button>
        <Button className="min-h-14!" onClick={() => set(null)}>
          Cancel
        </Button>
      </div>
      <Trouble words={trouble} className="mt-2 text-lg" />
    </section>
  );
}

function BlowLine({ blow, mended }: { blow: Blow; mended: readonly string[] }) {
  const pick = usePick();
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-rule py-2" data-blow={blow.number}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="num text-2xl">{blow.number}</span>
        <b>{blow.felt}</b>
        <span className="num text-quiet">{blow.at.slice(0, 10)}</span>
        <span className="flex-1">{blow.note}</span>
        <VerdictMark verdict={blow.verdict} />
      </div>
      <p>
        {blow.act}. Energy {blow.energy}; dent {pick(blow.dent)}, {pick(blow.left)} left
        {blow.near && ` to the ${blow.near}`} of {pick(blow.room)}.
      </p>
      <Findings findings={blow.findings} />
      {blow.findings.length > 0 && <Mended ways={mended} />}
      <Button tone="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Fold" : "What its mounts took"}
      </Button>
      {open && <Mounts seq={blow.seq} />}
    </li>
  );
}

/** What was done to the plate itself: only that ends a dent that took the room. */
function Mended({ ways }: { ways: readonly string[] }) {
  const { act, trouble, busy } = useAct();
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span>The plate was</span>
      {ways.map((done) => (
        <Button
          key={done}
          busy={busy}
          onClick={() => void act(notePart({ what: "plate", done, cost: "" }))}
        >
          {done}
        </Button>
      ))}
      <Trouble words={trouble} />
    </div>
  );
}

function Mounts({ seq }: { seq: number }) {
  const detail = useBlow(seq);
  const pick = usePick();
  if (detail.isPending) return <Waiting what="what its mounts took; the sheet is solved" />;
  if (detail.isError) return <Failed error={detail.error} retry={() => void detail.refetch()} />;
  const view = detail.data;
  if (view.why_not) return <p>Not known: {view.why_not}.</p>;
  return (
    <div className="border-l-2 border-rule pl-3">
      <p>At {view.energy}, taken at its upper end. Look at these first:</p>
      <ol aria-label="Mounts, most loaded first">
        {view.mounts.slice(0, 4).map((mount) => (
          <li key={mount.name} className="flex flex-wrap gap-x-3">
            <VerdictMark verdict={mount.verdict} quiet />
            <span>{mount.name}</span>
            <span className="num">{pick(mount.share)}</span>
            <span className="text-quiet">{mount.fails}</span>
          </li>
        ))}
      </ol>
    </div>
  );
}
