import { useState } from "react";
import { wordsFor } from "../api/errors";
import { takeReadingFor, useInstruments, useLoad } from "../api/instruments";
import type { LinkState } from "../api/types";
import { Button } from "./Button";
import { Entry } from "./Entry";
import { useTarget } from "./Focus";

const FITS: Record<string, string> = { mm: "calliper", kg: "scale", N·m: "wrench" };

/**
 * Instruments on the bench: each one's state and reading, and where a reading would go.
 * With `only` one of them, in its place on the page.
 */
export function Tray({ only = "" }: { only?: string }) {
  const instruments = useInstruments();
  const all = instruments.data?.instruments ?? [];
  const found = only ? all.filter((link) => link.key === only) : all;
  return (
    <section
      aria-label="Instruments"
      className={`${only ? "mt-3" : "sticky bottom-0"} z-20 border-t border-ink bg-steel px-3 py-1 sm:px-5`}
    >
      <Aim />
      {instruments.isError && <p role="alert">{wordsFor(instruments.error)}</p>}
      {instruments.data && found.length === 0 && (
        <p className="pb-2">
          No instrument is linked. Start with “--instrument scale=URL”, or type the readings.
        </p>
      )}
      <ul className={`grid gap-2 pb-1.5 ${only ? "max-w-md" : "md:grid-cols-3"}`}>
        {found.map((link) => (
          <Instrument key={link.key} link={link} />
        ))}
      </ul>
    </section>
  );
}

/** Where a reading goes. */
function Aim() {
  const target = useTarget();
  if (!target) return <p className="text-sm">Tap a field: a reading goes into it.</p>;
  return (
    <p className="text-sm">
      A reading goes into <b>{target.label}</b>
      {target.takes ? ` (${target.takes})` : ", which takes none"}.
    </p>
  );
}

function Instrument({ link }: { link: LinkState }) {
  const target = useTarget();
  const [trouble, setTrouble] = useState("");
  const fits = target !== null && FITS[target.takes] === link.key;
  const take = async () => {
    if (!target) return;
    setTrouble("");
    try {
      const taken = await takeReadingFor(link.key, target.takes || "mm");
      target.put(taken);
    } catch (error) {
      setTrouble(wordsFor(error).replace("Not saved", "Not taken"));
    }
  };
  return (
    <li className="border border-ink bg-sheet px-2 py-1" data-instrument={link.key}>
      <div className="flex items-center gap-3">
        <span className="min-w-0 flex-1">
          <span className="block truncate text-sm">{link.name}</span>
          <StateWord state={link.state} />
        </span>
        <output className="num text-3xl" aria-label={`${link.name} reads`}>
          {link.shown || "–"} <span className="text-base">{link.unit}</span>
        </output>
        <Button
          tone={fits ? "main" : "plain"}
          disabled={!target?.takes}
          onClick={() => void take()}
          aria-label={`Take reading of the ${link.kind}`}
        >
          Take reading
        </Button>
      </div>
      {link.simulated && <Load link={link} setTrouble={setTrouble} />}
      {(trouble || link.trouble) && (
        <p role={trouble ? "alert" : "status"} className="text-sm font-semibold text-blocked">
          {trouble || link.trouble}
        </p>
      )}
    </li>
  );
}

const SHAPE: Record<LinkState["state"], string> = {
  absent: "M2 2 10 10M10 2 2 10",
  settling: "M1 6q2.5-5 5 0t5 0",
  stable: "M1 4h10M1 8h10",
  stale: "M1 6h3M6.5 6h1.5M10 6h1",
};

/** An instrument's state: a line that lies still, waves, breaks off or is crossed; and its word. */
function StateWord({ state }: { state: LinkState["state"] }) {
  return (
    <span className="inline-flex items-center gap-1.5 text-sm font-semibold">
      <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
        <path d={SHAPE[state]} className="stroke-ink" strokeWidth="1.6" fill="none" />
      </svg>
      {state}
    </span>
  );
}

/** Stands in for the hand that puts something on a simulated instrument. */
function Load({ link, setTrouble }: { link: LinkState; setTrouble: (words: string) => void }) {
  const [value, setValue] = useState("");
  const load = useLoad();
  const put = async () => {
    setTrouble("");
    try {
      await load(link.key, value);
    } catch (error) {
      setTrouble(wordsFor(error));
    }
  };
  const words = { scale: "on it", calliper: "between its jaws", wrench: "pulled with" }[link.kind];
  return (
    <div className="flex items-end gap-2 text-sm">
      <Entry
        label={`simulated: ${words}, ${link.unit || "…"}`}
        value={value}
        numeric
        onChange={setValue}
        onEnter={() => void put()}
      />
      <Button onClick={() => void put()} disabled={!value.trim()}>
        Put
      </Button>
    </div>
  );
}
