import { chooseHoleSet, stackPiece, usePieces } from "../../api/fitup";
import type { Schemas } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Findings } from "../../parts/Findings";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { PutOn } from "./PutOn";

type View = Schemas["PiecesView"];

/** Pieces: in which order they hang, which screws they share, which set of holes is used. */
export function PiecesSheet() {
  const pieces = usePieces();
  if (pieces.isPending) return <Waiting what="the pieces" />;
  if (pieces.isError) return <Failed error={pieces.error} retry={() => void pieces.refetch()} />;
  const view = pieces.data;
  return (
    <div className="grid grid-cols-1 gap-x-8 px-3 py-3 sm:px-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,28rem)]">
      <div className="min-w-0">
        <h2 className="text-xl">{view.drawing.title}</h2>
        <Drawing drawing={view.drawing} className="max-h-[50vh] min-h-64 w-full" />
        <p className="text-sm text-quiet">Numbers: every screw, of every set of holes.</p>
        <Shared view={view} />
      </div>
      <div className="min-w-0">
        {(view.pieces.length > 1 || view.sets.length > 0) && (
          <p>
            <VerdictMark verdict={view.verdict} />
          </p>
        )}
        <Findings findings={view.findings} />
        <Turns view={view} />
        <PutOn choices={view.new} />
        <HoleSets view={view} />
      </div>
    </div>
  );
}

function Turns({ view }: { view: View }) {
  return (
    <section aria-label="Order of hanging" className="mt-3">
      <h2 className="border-b border-ink text-xl">Hung in this order</h2>
      {view.pieces.length === 1 && (
        <p className="text-sm text-quiet">
          This plate is one sheet. A side guard or a sub-plate is put on below with its screws; any
          other sheet of its own is entered in Survey, under the plate.
        </p>
      )}
      <ol>
        {view.pieces.map((piece, turn) => (
          <li key={piece.key} data-piece={piece.key} className="border-b border-rule py-1.5">
            <p className="flex items-baseline gap-x-2">
              <span className="num w-7 text-2xl">{turn + 1}</span>
              <span className="min-w-0 flex-1">{piece.name}</span>
            </p>
            <div className="grid gap-x-3 sm:grid-cols-2">
              {piece.fields.map((field) => (
                <Field key={field.path} field={field} />
              ))}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Shared({ view }: { view: View }) {
  const { act, trouble, busy } = useAct();
  return (
    <section aria-label="Screws through two sheets" className="mt-3">
      <h2 className="border-b border-ink text-xl">Screws through two sheets</h2>
      {view.shared.length === 0 && <Empty>No screw goes through two sheets of this plate.</Empty>}
      <ul>
        {view.shared.map((screw) => (
          <li key={screw.key} data-shared={screw.key} className="border-b border-rule py-1.5">
            <p className="flex flex-wrap items-baseline gap-x-2">
              <span className="num w-7 text-2xl">{screw.number}</span>
              <span className="min-w-0 flex-1">{screw.name}</span>
            </p>
            <p className="text-sm text-quiet">from below: {screw.sheets.join(", then ")}</p>
            {screw.lacking.map((sheet) => (
              <Button
                key={sheet.piece}
                busy={busy}
                className="mt-1"
                onClick={() => void act(stackPiece({ joint: screw.key, piece: sheet.piece }))}
              >
                Put the {sheet.name} into its stack
              </Button>
            ))}
          </li>
        ))}
      </ul>
      <Trouble words={trouble} />
    </section>
  );
}

function HoleSets({ view }: { view: View }) {
  const { act, trouble, busy } = useAct();
  return (
    <section aria-label="Sets of holes" className="mt-4">
      <h2 className="border-b border-ink text-xl">Sets of holes</h2>
      {view.sets.length === 0 && (
        <p className="text-sm text-quiet">
          None to choose from. Where a sheet can hang in one set of holes or another, build the
          joints of both and name the set at each joint, under where it stands.
        </p>
      )}
      {view.sets.map((set) => (
        <article key={set.name} data-hole-set={set.name} className="border-b border-rule py-1.5">
          <div className="flex flex-wrap items-baseline gap-x-3">
            <h3 className="min-w-0 flex-1 text-lg">
              {set.name}
              {set.is_best && <span className="label ml-2">holds best</span>}
            </h3>
            {set.is_used ? (
              <span className="label">used</span>
            ) : (
              <Button busy={busy} onClick={() => void act(chooseHoleSet(set.name))}>
                Use this set
              </Button>
            )}
          </div>
          <p className="text-sm">
            joints {set.joints} · worst screw <Why figure={set.worst} /> · spread{" "}
            <Why figure={set.spread} />
          </p>
          <p className="text-sm">
            <VerdictMark verdict={set.reaches} /> {set.reach}
          </p>
        </article>
      ))}
      {view.why && <p className="text-sm text-quiet">{view.why}</p>}
      {view.chosen && (
        <Button
          tone="quiet"
          className="mt-2"
          busy={busy}
          onClick={() => void act(chooseHoleSet(""))}
        >
          Choose none, show every joint
        </Button>
      )}
      <Trouble words={trouble} />
    </section>
  );
}
