import { useState } from "react";
import { useHoles } from "../../api/fitup";
import type { Schemas } from "../../api/types";
import { AsTable } from "../../drawing/AsTable";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Field } from "../../parts/Field";
import { Findings } from "../../parts/Findings";
import { Empty, Failed, Waiting } from "../../parts/States";
import { usePick } from "../../parts/units";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { PhotoReader } from "./PhotoReader";

type View = Schemas["HolesView"];
type Row = Schemas["HoleRowView"];

/** Holes: what is off in each, which screws start, the move that helps, what to open. */
export function HolesSheet() {
  const holes = useHoles();
  const [picked, setPicked] = useState("");
  const [photo, setPhoto] = useState(false);
  if (holes.isPending) return <Waiting what="the holes" />;
  if (holes.isError) return <Failed error={holes.error} retry={() => void holes.refetch()} />;
  const view = holes.data;
  if (view.rows.length === 0)
    return (
      <div className="px-3 py-3 sm:px-5">
        <Empty>No joint holds this plate yet: build the joints first.</Empty>
      </div>
    );
  return (
    <div className="grid grid-cols-1 gap-x-6 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,26rem)]">
      <div className="min-w-0">
        {photo && <PhotoReader view={view} close={() => setPhoto(false)} />}
        <h2 className="text-xl">{view.drawing.title}</h2>
        <Drawing
          drawing={view.drawing}
          className="max-h-[60vh] min-h-72 w-full lg:max-h-[54vh]"
          picked={picked}
          names={Object.fromEntries(view.rows.map((r) => [r.key, r.name]))}
          onPick={setPicked}
        />
        <p className="text-sm text-quiet">
          Ring: room in the hole. Cross: where the thread stands. Small ring: where it stands after
          the plate is moved. A cross inside its ring starts.
        </p>
        <MapTable view={view} />
      </div>
      <div className="min-w-0">
        <Answer view={view} />
        <div className="mt-3 flex flex-wrap items-center gap-3 border-b border-ink">
          <h3 className="flex-1 text-lg">Off by, with the plate held up</h3>
          <Button tone="quiet" aria-expanded={photo} onClick={() => setPhoto(!photo)}>
            {photo ? "Fold the photograph" : "Read from a photograph"}
          </Button>
        </div>
        <ul>
          {view.rows.map((row) => (
            <HoleLine key={row.key} row={row} picked={row.key === picked} />
          ))}
        </ul>
        <Growing view={view} />
      </div>
    </div>
  );
}

function MapTable({ view }: { view: View }) {
  const pick = usePick();
  return (
    <AsTable
      caption={view.drawing.title}
      head={["hole", "room", "as it hangs", "after the move"]}
      rows={view.rows.map((r) => [
        `${r.number} ${r.name}`,
        pick(r.clearance),
        r.words,
        pick(r.moved),
      ])}
    />
  );
}

/** What it comes to: the margin, the move, what to loosen or open. */
function Answer({ view }: { view: View }) {
  const known = view.margin.value !== null;
  return (
    <section aria-label="Which screws start">
      <p className="text-lg">
        <VerdictMark verdict={view.verdict} />
      </p>
      {known && (
        <p data-testid="margin">
          Best place: {view.move}. Least margin <Why figure={view.margin} className="text-xl" /> ±{" "}
          <Why figure={view.unsure} />
        </p>
      )}
      <Findings findings={view.findings} />
      {view.remedies.length > 0 && (
        <>
          <h3 className="mt-3 border-b border-ink text-lg">What would let them start</h3>
          <ol className="list-decimal pl-6">
            {view.remedies.map((remedy) => (
              <li key={remedy.words} data-remedy={remedy.kind} className="py-0.5">
                {remedy.words}
              </li>
            ))}
          </ol>
        </>
      )}
      <Cautions texts={view.cautions} />
    </section>
  );
}

function HoleLine({ row, picked }: { row: Row; picked: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <li
      data-hole={row.key}
      className={`border-b border-rule py-1.5 ${picked ? "bg-sheet shadow-[inset_4px_0_0_var(--color-act)]" : ""}`}
    >
      <p className="flex flex-wrap items-baseline gap-x-2">
        <span className="num w-7 text-2xl">{row.number}</span>
        <span className="min-w-0 flex-1">{row.name}</span>
        <VerdictMark verdict={row.verdict} />
      </p>
      <p className="text-sm text-quiet">
        room <Why figure={row.clearance} /> · {row.words}
      </p>
      <div className="grid grid-cols-3 gap-2">
        {row.measured.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Button
        tone="quiet"
        aria-expanded={open}
        aria-label={`${open ? "Fold" : "What gives at"} hole ${row.number}`}
        onClick={() => setOpen(!open)}
      >
        {open ? "Fold" : "Slot, clip nut or bracket that gives"}
      </Button>
      {open && (
        <div className="grid grid-cols-2 gap-2 pb-1 sm:grid-cols-3">
          {row.gives.map((field) => (
            <Field key={field.path} field={field} />
          ))}
        </div>
      )}
    </li>
  );
}

/** A plate that grows: which hole holds it, how far the others move. */
function Growing({ view }: { view: View }) {
  if (view.located === null) return null;
  return (
    <section aria-label="Cold and hot" className="mt-4">
      <h3 className="border-b border-ink text-lg">Cold and hot</h3>
      <p>
        {view.material} grows more than the frame. Hold hole <b className="num">{view.located}</b>,
        let the others float:
      </p>
      <table className="w-full">
        <thead>
          <tr className="text-left text-sm text-quiet">
            <th scope="col">hole</th>
            <th scope="col">moves at −20 °C</th>
            <th scope="col">at 80 °C</th>
            <th scope="col">needs</th>
            <th scope="col">has</th>
          </tr>
        </thead>
        <tbody>
          {view.growing.map((hole) => (
            <tr key={hole.number} className="border-t border-rule">
              <th scope="row" className="num text-left">
                {hole.number}
              </th>
              <td>
                <Why figure={hole.cold} />
              </td>
              <td>
                <Why figure={hole.hot} />
              </td>
              <td>
                <Why figure={hole.needed} />
              </td>
              <td>
                <Why figure={hole.now} /> {hole.floats ? "floats" : "too tight"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
