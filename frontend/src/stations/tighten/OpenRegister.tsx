import { useState } from "react";
import { closed, loosened } from "../../api/tighten";
import type { Schemas, TightenView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { Why } from "../../parts/Why";

type Open = Schemas["OpenView"];
const OTHER = "something else";
const KINDS = ["screw", "spring", "strap", "hose", "cap"] as const;
const CLOSED_BY: Record<Open["what"], string> = {
  screw: "",
  spring: "hooked in again, pulled once",
  strap: "off, the suspension free",
  hose: "back on, its clip closed",
  cap: "on and tight",
};

/** What is open on the bike beside the plate's own joints; it must be closed before riding. */
export function OpenRegister({ view }: { view: TightenView }) {
  const [adding, setAdding] = useState(false);
  return (
    <section aria-label="Open on the bike" className="mt-3 border-t border-ink pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-lg">
          {view.open.length === 0
            ? "Nothing of the bike is open"
            : `Open on the bike: ${view.open.length}`}
        </h2>
        <Button aria-expanded={adding} onClick={() => setAdding(!adding)}>
          I loosened something else
        </Button>
      </div>
      {adding && <Loosen view={view} done={() => setAdding(false)} />}
      <ul>
        {view.open.map((one) => (
          <OpenLine key={one.joint} one={one} />
        ))}
      </ul>
    </section>
  );
}

function Loosen({ view, done }: { view: TightenView; done: () => void }) {
  const { act, trouble, busy } = useAct();
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Open["what"]>("screw");
  const open = async (words: string, what: Open["what"]) => {
    if (await act(loosened({ name: words, what }))) done();
  };
  const isOpen = new Set(view.open.map((o) => o.name));
  return (
    <div className="my-2 border border-ink bg-sheet p-2">
      <div className="flex flex-wrap gap-2">
        {Object.entries(view.known_loosened)
          .filter(([words]) => !isOpen.has(words))
          .map(([words, what]) => (
            <Button key={words} busy={busy} onClick={() => void open(words, what)}>
              {words}
            </Button>
          ))}
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Entry label={OTHER} value={name} onChange={setName} wide />
        <Choice
          label="a"
          value={kind}
          options={KINDS}
          onChange={(value) => setKind(KINDS.find((k) => k === value) ?? "screw")}
        />
        <Button tone="main" busy={busy} onClick={() => void open(name, kind)}>
          It is open
        </Button>
      </div>
      <Trouble words={trouble} />
    </div>
  );
}

function OpenLine({ one }: { one: Open }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const [how, setHow] = useState("");
  const close = (words: string) => act(closed({ joint: one.joint, text, how: words, system }));
  return (
    <li data-open={one.joint} className="border-b border-rule py-2">
      <p className="text-lg">
        {one.name}
        {one.manual && (
          <span>
            {" "}
            · manual <Why figure={one.manual} className="text-xl" />
          </span>
        )}
      </p>
      <div className="flex flex-wrap items-end gap-2">
        {one.what === "screw" ? (
          <>
            <div className="w-36">
              <Entry
                label={`torque of the ${one.name}`}
                value={text}
                onChange={setText}
                unit={system === "us" ? "ft·lb" : "N·m"}
                numeric
                takes="N·m"
                onEnter={() => void close(how)}
              />
            </div>
            <Entry label="or what was done" value={how} onChange={setHow} wide />
            <Button className="min-h-14!" busy={busy} onClick={() => void close(how)}>
              Closed
            </Button>
          </>
        ) : (
          <Button
            className="min-h-14! w-full"
            busy={busy}
            onClick={() => void close(CLOSED_BY[one.what])}
          >
            {CLOSED_BY[one.what]}
          </Button>
        )}
      </div>
      <Trouble words={trouble} />
    </li>
  );
}
