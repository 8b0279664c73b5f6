import { useState } from "react";
import { Link } from "react-router";
import { useJobId } from "../../api/job";
import { useShelfActs } from "../../api/shelf";
import {
  addCutout,
  addPiece,
  copyPlate,
  removeFromPlate,
  removePlate,
  reuseFromStock,
  setPanel,
  useComparison,
  usePlate,
  usePlateFollow,
} from "../../api/survey";
import type { FieldGroup, ItemView, PlateHead, PlateView } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { useFollowing } from "../../parts/Focus";
import { Item } from "../../parts/ItemList";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { TypeMany } from "../../parts/TypeMany";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { OutlineForm } from "./OutlineForm";
import { PhotoOutline } from "./PhotoOutline";
import { usePlateMaker } from "./usePlateMaker";

type Props = { plateKey: string; plates: readonly PlateHead[] };

/** One plate: its sheet and panels on the left, its drawings and measures on the right. */
export function PlateEditor({ plateKey, plates }: Props) {
  const plate = usePlate(plateKey);
  const follow = usePlateFollow(plateKey, useFollowing());
  if (plate.isPending) return <Waiting what="the plate" />;
  if (plate.isError) return <Failed error={plate.error} retry={() => void plate.refetch()} />;
  const view = plate.data;
  const drawn = follow ?? view;
  return (
    <div className="grid min-h-0 gap-x-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,27rem)] lg:grid-rows-[minmax(0,1fr)]">
      <div className="relative min-h-0 lg:overflow-y-auto lg:pr-2">
        <div className="flex flex-wrap items-center gap-x-2">
          <h2 className="flex flex-1 flex-wrap items-center gap-x-3 text-xl">
            {view.name}
            <span className="font-text text-base">
              <VerdictMark verdict={drawn.verdict} />
            </span>
          </h2>
          <PlateActs view={view} />
        </div>
        {view.groups.map((group) => (
          <Group key={group.key} group={group} plateKey={plateKey} />
        ))}
        <AddPanel view={view} />
        <Openings view={view} />
        <Pieces view={view} />
        <OutlineForm plateKey={plateKey} />
        <PhotoOutline plateKey={plateKey} />
        <Hardware view={view} />
      </div>
      <div className="relative min-h-0 lg:overflow-y-auto">
        <Drawings view={drawn} />
        <Measures view={drawn} />
        <Remarks view={drawn} />
        <Against plateKey={plateKey} plates={plates} />
      </div>
    </div>
  );
}

function PlateActs({ view }: { view: PlateView }) {
  const { make, trouble } = usePlateMaker();
  const { act, trouble: refused } = useAct();
  const { add } = useShelfActs();
  const [said, setSaid] = useState("");
  return (
    <>
      <Button tone="quiet" onClick={() => void make(copyPlate(view.key))}>
        Copy
      </Button>
      <Button
        tone="quiet"
        onClick={() =>
          void add("plate", view.key)
            .then(() => setSaid("on the shelf"))
            .catch(() => setSaid("not put there: try again"))
        }
      >
        Put on the shelf
      </Button>
      {view.role !== "stock" && (
        <Button tone="quiet" onClick={() => void act(removePlate(view.key))}>
          Take out
        </Button>
      )}
      <span role="status" className="text-sm">
        {said}
      </span>
      <Trouble words={trouble || refused} className="w-full" />
    </>
  );
}

function Remarks({ view }: { view: PlateView }) {
  return (
    <ul aria-label="What to mind with this plate" className="mt-3">
      {view.findings.map((f) => (
        <li key={f.text} className="flex gap-2 py-0.5">
          <VerdictMark verdict={f.verdict} quiet /> {f.text}
        </li>
      ))}
      {view.notes.map((note) => (
        <li key={note} className="py-0.5">
          {note}
        </li>
      ))}
    </ul>
  );
}

function Group({ group, plateKey }: { group: FieldGroup; plateKey: string }) {
  const { act, trouble } = useAct();
  return (
    <section aria-label={group.title} className="border-t border-ink py-2" data-group={group.key}>
      <div className="flex items-center">
        <h3 className="flex-1 text-lg">{group.title}</h3>
        {group.removable && (
          <Button
            tone="quiet"
            onClick={() => void act(setPanel(plateKey, { panel: group.key, there: false }))}
          >
            Take the {group.key} off
          </Button>
        )}
      </div>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4 lg:grid-cols-3">
        {group.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Trouble words={trouble} />
    </section>
  );
}

function AddPanel({ view }: { view: PlateView }) {
  const { act, trouble, busy } = useAct();
  const panels = Object.entries(view.can_add);
  if (panels.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-ink py-2">
      <span>This plate also has</span>
      {panels.map(([panel, words]) => (
        <Button
          key={panel}
          busy={busy}
          onClick={() => void act(setPanel(view.key, { panel, there: true }))}
        >
          {words}
        </Button>
      ))}
      <Trouble words={trouble} />
    </div>
  );
}

type ListProps = { title: string; items: readonly ItemView[]; plateKey: string; empty: string };

function PlateItems({ title, items, plateKey, empty }: ListProps) {
  const { act, trouble } = useAct();
  return (
    <>
      {items.length === 0 && <p className="text-quiet">{empty}</p>}
      <ul aria-label={title}>
        {items.map((item) => (
          <Item
            key={item.key}
            item={item}
            drop={() => void act(removeFromPlate(plateKey, item.key))}
          />
        ))}
      </ul>
      <Trouble words={trouble} />
    </>
  );
}

function Openings({ view }: { view: PlateView }) {
  const { act, trouble, busy } = useAct();
  const [panel, setPanel] = useState(view.panels[0] ?? "belly");
  const [many, setMany] = useState(false);
  return (
    <section aria-label="Openings" className="border-t border-ink py-2">
      <div className="flex items-end gap-2">
        <h3 className="flex-1 text-lg">Openings</h3>
        <Choice label="on" hideLabel value={panel} options={view.panels} onChange={setPanel} />
        <Button busy={busy} onClick={() => void act(addCutout(view.key, { name: panel }))}>
          Add an opening
        </Button>
        <Button tone="quiet" onClick={() => setMany(!many)}>
          Type many
        </Button>
      </div>
      {many && <TypeMany where="openings" plate={view.key} close={() => setMany(false)} />}
      <Trouble words={trouble} />
      <PlateItems
        title="Openings of this plate"
        items={view.cutouts}
        plateKey={view.key}
        empty="None: a solid plate. Drain and filter holes, vents and mount holes belong here."
      />
    </section>
  );
}

function Pieces({ view }: { view: PlateView }) {
  const { act, trouble, busy } = useAct();
  return (
    <section aria-label="Further pieces" className="border-t border-ink py-2">
      <div className="flex items-center">
        <h3 className="flex-1 text-lg">Further pieces</h3>
        <Button tone="quiet" busy={busy} onClick={() => void act(addPiece(view.key))}>
          Add a piece
        </Button>
      </div>
      {Object.entries(view.reusable).map(([item, name]) => (
        <Button
          key={item}
          tone="quiet"
          busy={busy}
          onClick={() => void act(reuseFromStock(view.key, item))}
        >
          Take the {name} over
        </Button>
      ))}
      <Trouble words={trouble} />
      <PlateItems
        title="Pieces of this plate"
        items={view.pieces}
        plateKey={view.key}
        empty="It is one piece."
      />
    </section>
  );
}

function Hardware({ view }: { view: PlateView }) {
  const job = useJobId();
  return (
    <p className="border-t border-ink py-3">
      Its hardware and joints: {view.lines} lines in{" "}
      <Link className="text-act underline" to={`/jobs/${job}/kit`}>
        Kit
      </Link>
      , {view.joints} joints in{" "}
      <Link className="text-act underline" to={`/jobs/${job}/fit-up`}>
        Fit-up
      </Link>
      , for the plate that is in hand.
    </p>
  );
}

function Drawings({ view }: { view: PlateView }) {
  const job = useJobId();
  const save = (kind: string) => `/api/jobs/${job}/plates/${view.key}/flat.${kind}`;
  const [below, side, ahead] = view.views;
  return (
    <section aria-label="Drawings" data-testid="plate-drawings">
      <Drawing drawing={view.flat} className="max-h-72 w-full" />
      <p className="mb-2 flex flex-wrap items-center gap-x-4 text-sm">
        Flat, fold lines dotted, true mm:
        <a
          className="inline-flex min-h-11 items-center text-act underline"
          href={save("dxf")}
          download="flat-pattern.dxf"
        >
          save as DXF
        </a>
        <a
          className="inline-flex min-h-11 items-center text-act underline"
          href={save("svg")}
          download="flat-pattern.svg"
        >
          save as SVG
        </a>
      </p>
      {side && <Drawing drawing={side} className="max-h-44 w-full" />}
      <div className="grid grid-cols-2 gap-2">
        {below && <Drawing drawing={below} className="max-h-64 w-full" />}
        {ahead && <Drawing drawing={ahead} className="max-h-64 w-full" />}
      </div>
    </section>
  );
}

function Measures({ view }: { view: PlateView }) {
  return (
    <dl aria-label="Measures" className="mt-3 grid grid-cols-2 gap-x-4">
      {view.measures.map((figure) => (
        <div key={figure.key} className="flex items-baseline gap-2 border-b border-rule py-0.5">
          <dt className="min-w-0 flex-1 text-sm">{figure.label}</dt>
          <dd>
            <Why figure={figure} className="text-lg" />
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Two plates in plain quantities: the ratio, its base, what it means. */
function Against({ plateKey, plates }: Props) {
  const [other, setOther] = useState("");
  const compared = useComparison(plateKey, other);
  const others = plates.filter((p) => p.key !== plateKey);
  return (
    <section aria-label="Compared with another plate" className="mt-4 border-t border-ink pt-2">
      <Choice
        label="hold it against"
        value={other}
        options={["", ...others.map((p) => p.key)]}
        names={{ "": "no other plate", ...Object.fromEntries(others.map((p) => [p.key, p.name])) }}
        onChange={setOther}
      />
      {compared.isError && <p role="alert">It could not be compared: try again.</p>}
      {compared.data && other !== "" && (
        <ul className="mt-1">
          {compared.data.rows.map((figure, i) => (
            <li key={figure.key} className="border-b border-rule py-1">
              {figure.label} <Why figure={figure} className="text-lg" />
              <span className="block text-sm">{compared.data.sentences[i]}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
