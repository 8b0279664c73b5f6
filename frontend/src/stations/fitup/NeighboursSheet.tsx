import { useState } from "react";
import { forgetLook, listUsual, noteLook, useNeighbours } from "../../api/fitup";
import { addItem, removeItem } from "../../api/job";
import type { Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Entry } from "../../parts/Entry";
import { Field } from "../../parts/Field";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

type Row = Schemas["NeighbourView"];

/** Neighbours: each in its worst state, computed where it is drawn, looked at where it is not. */
export function NeighboursSheet() {
  const near = useNeighbours();
  const { act, trouble, busy } = useAct();
  if (near.isPending) return <Waiting what="the neighbours" />;
  if (near.isError) return <Failed error={near.error} retry={() => void near.refetch()} />;
  const view = near.data;
  return (
    <div className="mx-auto max-w-5xl px-3 py-3 sm:px-5">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-xl">What must stay clear of the {view.plate}</h2>
        <VerdictMark verdict={view.verdict} />
      </div>
      <Cautions texts={view.cautions} />
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-56">
          <Field field={view.boot} />
        </div>
        <div className="w-56">
          <Field field={view.glove} />
        </div>
        {view.more_usual && (
          <Button
            tone={view.listed ? "plain" : "main"}
            busy={busy}
            onClick={() => void act(listUsual)}
          >
            List what is always looked at
          </Button>
        )}
        <Button busy={busy} onClick={() => void act(addItem("bike.neighbours"))}>
          Add another
        </Button>
      </div>
      <Trouble words={trouble} />
      <ul className="mt-3">
        {view.rows.map((row) => (
          <Near key={row.key + row.state} row={row} />
        ))}
      </ul>
    </div>
  );
}

function Near({ row }: { row: Row }) {
  const [open, setOpen] = useState(false);
  return (
    <li data-neighbour={row.key || "wheel"} className="border-b border-rule py-2">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <p className="min-w-0 flex-1 basis-48">
          <span className="text-lg">{row.name}</span> <span className="label">{row.state}</span>
        </p>
        <p>
          <Why figure={row.gap} className="text-xl" />{" "}
          <span className="text-sm text-quiet">
            wants <Why figure={row.wanted} />
          </span>
        </p>
        <VerdictMark verdict={row.verdict} />
      </div>
      {row.gap.value !== null && <p className="text-sm text-quiet">{row.how}</p>}
      {row.findings.map((f) => (
        <p key={f.text}>{f.text}</p>
      ))}
      {row.film && <Drawing drawing={row.film} className="h-72 w-full" />}
      {row.key !== "" && (
        <>
          <Look row={row} />
          <Button
            tone="quiet"
            aria-expanded={open}
            aria-label={`${open ? "Fold" : "How it moves"}: ${row.name}`}
            onClick={() => setOpen(!open)}
          >
            {open ? "Fold" : "How it moves"}
          </Button>
        </>
      )}
      {open && <Moves row={row} />}
    </li>
  );
}

/** One tap for a pencil or a touch, a number for a feeler. */
function Look({ row }: { row: Row }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [text, setText] = useState("");
  const note = async (looked_with: "feeler or rule" | "a pencil passes" | "it touches") => {
    const done = await act(noteLook(row.key, { looked_with, text, system }));
    if (done) setText("");
  };
  return (
    <div className="mt-1 flex flex-wrap items-end gap-2">
      <div className="w-36">
        <Entry
          label={`measured at ${row.name}`}
          value={text}
          onChange={setText}
          unit={system === "us" ? "in" : "mm"}
          numeric
          takes="mm"
          onEnter={() => void note("feeler or rule")}
        />
      </div>
      <Button busy={busy} onClick={() => void note("feeler or rule")}>
        Note the gap
      </Button>
      <Button busy={busy} onClick={() => void note("a pencil passes")}>
        A pencil passes
      </Button>
      <Button busy={busy} onClick={() => void note("it touches")}>
        It touches
      </Button>
      {row.looked && (
        <Button tone="quiet" busy={busy} onClick={() => void act(forgetLook(row.key))}>
          Take the look back
        </Button>
      )}
      <Trouble words={trouble} />
    </div>
  );
}

function Moves({ row }: { row: Row }) {
  const { act, trouble } = useAct();
  return (
    <div className="pb-2">
      <p className="text-sm text-quiet">
        With pivot and tip entered its motion is drawn and computed past the plate; without them it
        is looked at.
      </p>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {row.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Button tone="quiet" onClick={() => void act(removeItem("bike.neighbours", row.key))}>
        Take “{row.name}” off the list
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}
