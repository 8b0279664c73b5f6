import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { addLayer, removeJoint, removeLayer, useFitup, useJoint } from "../../api/fitup";
import { setField, useJobId } from "../../api/job";
import type { FieldView, FitupView, JointDetail, LayerView } from "../../api/types";
import { AsTable } from "../../drawing/AsTable";
import { Drawing } from "../../drawing/Drawing";
import { Swatch } from "../../drawing/Hatches";
import { LengthWindow } from "../../drawing/LengthWindow";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Field, SwitchField } from "../../parts/Field";
import { Empty, Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { TypeMany } from "../../parts/TypeMany";
import { usePick, useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";
import { AllJoints } from "./AllJoints";
import { FarNuts } from "./FarNuts";
import { NewJoint } from "./NewJoint";
import { Sink } from "./Sink";

const MATERIALS = ["aluminium", "steel", "plastic", "rubber", "cast"] as const;

/** Fit-up: every joint as a section to scale, with its window of lengths. */
export function Fitup() {
  const fitup = useFitup();
  const params = useParams();
  const [adding, setAdding] = useState(false);
  const first = fitup.data?.joints[0]?.key ?? "";
  const known = fitup.data?.joints.some((j) => j.key === params.joint);
  const chosen = known ? (params.joint ?? "") : first;
  if (fitup.isPending) return <Waiting what="the joints" />;
  if (fitup.isError) return <Failed error={fitup.error} retry={() => void fitup.refetch()} />;
  const view = fitup.data;
  return (
    <div className="grid grid-cols-1 gap-x-5 px-3 py-3 sm:px-5 lg:h-full lg:grid-cols-[minmax(0,min(17rem,26vw))_minmax(0,1fr)]">
      <JointList view={view} chosen={chosen} add={() => setAdding(true)} />
      <div className="relative min-h-0 lg:overflow-y-auto">
        {adding || first === "" ? (
          <NewJoint view={view} close={() => setAdding(false)} />
        ) : (
          <JointSheet key={chosen} joint={chosen} view={view} />
        )}
      </div>
    </div>
  );
}

function JointList({ view, chosen, add }: { view: FitupView; chosen: string; add: () => void }) {
  const job = useJobId();
  return (
    <nav aria-label="Joints" className="relative min-h-0 lg:overflow-y-auto">
      <h2 className="text-xl">Joints of the {view.plate}</h2>
      <ol>
        {view.joints.map((joint) => (
          <li key={joint.key} className="border-b border-rule">
            <Link
              to={`/jobs/${job}/fit-up/${joint.key}`}
              className={`grid min-h-11 grid-cols-[1.6rem_1fr_auto] items-center gap-2 px-1 py-1.5 ${joint.key === chosen ? "bg-sheet shadow-[inset_4px_0_0_var(--color-act)]" : "hover:bg-sheet"}`}
              aria-current={joint.key === chosen}
              data-joint={joint.key}
            >
              <span className="num text-center text-2xl">{joint.number}</span>
              <span className="min-w-0">
                <span className="block truncate">{joint.name}</span>
                <span className="label block truncate">
                  {[joint.screw, joint.side].filter(Boolean).join(" · ")}
                </span>
              </span>
              <VerdictMark verdict={joint.verdict} quiet />
            </Link>
          </li>
        ))}
      </ol>
      {view.joints.length === 0 && <Empty>No joint yet: build the first one here.</Empty>}
      <Button className="mt-3 w-full" onClick={add}>
        Build a joint of your own
      </Button>
      {view.joints.length > 1 && <AllJoints view={view} />}
      {view.not_here.length > 0 && (
        <section aria-label="Joints that do not apply" className="mt-4">
          <h3 className="text-lg">Do not apply on this bike</h3>
          <ul>
            {view.not_here.map((joint) => (
              <li key={joint.key} className="border-b border-rule py-1">
                {joint.number} · {joint.name}
                <Field field={joint.when} label="only if" />
              </li>
            ))}
          </ul>
        </section>
      )}
    </nav>
  );
}

function JointSheet({ joint, view }: { joint: string; view: FitupView }) {
  const detail = useJoint(joint);
  if (detail.isPending) return <Waiting what="the joint" />;
  if (detail.isError) return <Failed error={detail.error} retry={() => void detail.refetch()} />;
  const data = detail.data;
  return (
    <article aria-label={`Joint ${data.number}`}>
      <Head joint={data} />
      <div className="grid gap-5 xl:grid-cols-[1fr_22rem]">
        <div className="min-w-0">
          <Drawing drawing={data.section} className="h-80 w-full" />
          <p className="flex flex-wrap gap-x-4 text-sm text-quiet">
            {MATERIALS.map((name) => (
              <span key={name} className="inline-flex items-center gap-1.5">
                <Swatch name={name} /> {name}
              </span>
            ))}
          </p>
          <SectionTable joint={data} />
          {data.pair && <Opposite pair={data.pair} />}
          <Window joint={data} />
          <Numbers joint={data} />
        </div>
        <Layers joint={data} view={view} />
      </div>
    </article>
  );
}

/** The joint on the other side of the bike, and everything that differs. */
function Opposite({ pair }: { pair: NonNullable<JointDetail["pair"]> }) {
  const job = useJobId();
  const [open, setOpen] = useState(false);
  const other = useJoint(open ? pair.key : "");
  const same = pair.differences.length === 0;
  return (
    <section aria-label="The other side" className="mt-3 border-t border-ink pt-2">
      <div className="flex flex-wrap items-center gap-x-4">
        <h3 className="text-lg">
          On the other side:{" "}
          <Link
            className="inline-flex min-h-11 items-center text-act underline"
            to={`/jobs/${job}/fit-up/${pair.key}`}
          >
            joint {pair.number}, {pair.name}
          </Link>
        </h3>
        <Button tone="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Fold its section" : "Its section beside"}
        </Button>
      </div>
      {pair.odd && (
        <p>
          <VerdictMark verdict="mind" /> {pair.odd}
        </p>
      )}
      {same ? (
        <p>The same screw, layers and treatment.</p>
      ) : (
        <ul>
          {pair.differences.map((words) => (
            <li key={words} className="border-b border-rule py-0.5">
              {words}
            </li>
          ))}
        </ul>
      )}
      {other.data && <Drawing drawing={other.data.section} className="h-64 w-full" />}
    </section>
  );
}

/** The section's dimensions and the lengths on the scale, in words. */
function SectionTable({ joint }: { joint: JointDetail }) {
  const pick = usePick();
  const layers = joint.layers
    .filter((l) => !l.left_out)
    .map((l) => [`layer: ${l.name}, ${l.material}`, pick(l.thickness)]);
  const dimensions = joint.section.dimensions.map((d) => [d.label, pick(d)]);
  const lengths = joint.lengths.map((l) => [`length ${l.length_mm} mm`, l.verdict]);
  return (
    <AsTable
      caption={joint.section.title}
      head={["what", "how much"]}
      rows={[...layers, ...dimensions, ...lengths]}
    />
  );
}

function Head({ joint }: { joint: JointDetail }) {
  return (
    <header className="mb-1">
      <h2 className="flex flex-wrap items-center gap-x-3 text-2xl">
        Joint {joint.number}, {joint.name}
        <span className="font-text text-base">
          <VerdictMark verdict={joint.verdict} />
        </span>
      </h2>
      {joint.stands_in.map((words) => (
        <p key={words} className="border-l-4 border-mind bg-sheet px-3 py-1">
          Drawn and judged with a substitute: {words}. Its own part is what is entered below.
        </p>
      ))}
      {joint.findings.length === 0 && <p>Length, thread and room are right.</p>}
      {joint.findings.map((f) => (
        <p key={f.code + f.text} data-finding={f.code}>
          <b>{f.code}:</b> {f.text}
        </p>
      ))}
    </header>
  );
}

function Window({ joint }: { joint: JointDetail }) {
  const length = joint.fields.find((f) => f.name === "length_mm");
  const { act, trouble, busy } = useAct();
  const take = (field: FieldView, mm: number) =>
    act(setField({ path: field.path, text: String(mm), system: "metric" }));
  return (
    <section aria-label="Window of lengths" className="mt-3 border-t border-ink pt-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h3 className="text-lg">Which lengths fit</h3>
        <p>
          {joint.length_is === "in hand" ? "in hand" : joint.length_is}{" "}
          <b className="num text-xl">{joint.length_mm} mm</b>
        </p>
        <p data-testid="chosen">
          {joint.chosen_mm === null ? (
            "no standard length fits"
          ) : (
            <>
              asked for <b className="num text-xl">{joint.chosen_mm} mm</b>
            </>
          )}
        </p>
        {length && joint.chosen_mm !== null && joint.chosen_mm !== joint.length_mm && (
          <Button tone="main" busy={busy} onClick={() => void take(length, joint.chosen_mm ?? 0)}>
            Take the {joint.chosen_mm} mm screw
          </Button>
        )}
        <Trouble words={trouble} />
      </div>
      <LengthWindow joint={joint} />
      <p className="text-sm text-quiet">
        Shaded: true lengths that fit in the worst case. Flag: the screw in hand. Ring: the shortest
        standard length inside.
      </p>
    </section>
  );
}

function Numbers({ joint }: { joint: JointDetail }) {
  return (
    <dl className="mt-3 grid grid-cols-2 gap-x-5 border-t border-ink pt-2 md:grid-cols-3">
      {joint.figures.map((figure) => (
        <div
          key={figure.key}
          className="flex items-baseline justify-between gap-2 border-b border-rule"
        >
          <dt className="label">{figure.label}</dt>
          <dd>
            <Why figure={figure} className="text-lg" />
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Layers({ joint, view }: { joint: JointDetail; view: FitupView }) {
  const { act, trouble } = useAct();
  const navigate = useNavigate();
  const job = useJobId();
  const drop = async () => {
    const done = await act(removeJoint(joint.key));
    if (done) void navigate(`/jobs/${job}/fit-up`);
  };
  return (
    <section aria-label="Layers" className="min-w-0">
      <h3 className="border-b border-ink text-lg">
        {joint.is_stud ? "From the bike on" : "From the head on"}
      </h3>
      <ol>
        {joint.layers.map((layer) => (
          <Layer key={layer.key} layer={layer} joint={joint} />
        ))}
      </ol>
      <AddLayer joint={joint} view={view} />
      <h3 className="mt-3 border-b border-ink text-lg">
        {joint.is_stud ? "Stud, nut and treatment" : "Screw and treatment"}
      </h3>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {[...joint.fields, ...joint.placing].map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <h3 className="mt-3 border-b border-ink text-lg">What it threads into</h3>
      <p className="text-sm text-quiet">{joint.threads_into}</p>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {joint.female.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Sink joint={joint} />
      <FarNuts joint={joint} />
      <Button className="mt-3" onClick={() => void drop()}>
        Take this joint out
      </Button>
      <Trouble words={trouble} />
    </section>
  );
}

function Layer({ layer, joint }: { layer: LayerView; joint: JointDetail }) {
  const { act, trouble } = useAct();
  const [open, setOpen] = useState(false);
  const [thickness, ...rest] = layer.fields;
  const leftOut = rest.find((f) => f.name === "left_out");
  return (
    <li className="border-b border-rule py-1" data-layer={layer.key}>
      <div className="grid grid-cols-[1fr_8.5rem] items-center gap-2">
        <div className="min-w-0">
          <p className={layer.left_out ? "text-quiet line-through" : ""}>{layer.name}</p>
          <p className="label truncate">
            {layer.material}
            {layer.fixed ? ", as thick as the plate" : ""}
          </p>
        </div>
        {thickness && <Field field={thickness} label={`thickness of ${layer.name}`} hideLabel />}
      </div>
      <div className="flex flex-wrap items-center justify-between gap-x-3">
        {!layer.fixed && leftOut && <SwitchField field={leftOut} label="left out" />}
        <Button
          tone="quiet"
          aria-expanded={open}
          aria-label={`${open ? "Fold" : "Size"}: ${layer.name}, its holes and its condition`}
          onClick={() => setOpen(!open)}
        >
          {open ? "Fold" : "Size"}
        </Button>
        {layer.removable && (
          <Button tone="quiet" onClick={() => void act(removeLayer(joint.key, layer.key))}>
            Take this layer out
          </Button>
        )}
      </div>
      {open && (
        <div className="grid grid-cols-2 gap-2 pb-1">
          {rest
            .filter((f) => f.name !== "left_out")
            .map((field) => (
              <Field key={field.path} field={field} label={`${field.label} of ${layer.name}`} />
            ))}
        </div>
      )}
      <Trouble words={trouble} />
    </li>
  );
}

function AddLayer({ joint, view }: { joint: JointDetail; view: FitupView }) {
  const { system } = useUnits();
  const { act, trouble, busy } = useAct();
  const [kind, setKind] = useState("spacer");
  const [material, setMaterial] = useState("steel");
  const [after, setAfter] = useState(joint.layer_place);
  const [many, setMany] = useState(false);
  const [typed, setThickness] = useState<string | null>(null);
  const thickness = typed ?? (system === "us" ? view.first_layer.us : view.first_layer.metric);
  const send = () => act(addLayer(joint.key, { kind, material, thickness, after, system }));
  return (
    <div className="mt-2">
      <div className="grid grid-cols-2 items-end gap-2">
        <Choice
          label="add"
          value={kind}
          options={view.layer_kinds.filter((k) => k !== "plate")}
          onChange={setKind}
        />
        <Choice label="of" value={material} options={view.layer_materials} onChange={setMaterial} />
        <Choice
          label="where"
          value={after in joint.layer_places ? after : joint.layer_place}
          options={Object.keys(joint.layer_places)}
          names={joint.layer_places}
          onChange={setAfter}
        />
        <Entry
          label="thick"
          value={thickness}
          onChange={setThickness}
          unit={system === "us" ? "in" : "mm"}
          numeric
          onEnter={() => void send()}
        />
      </div>
      <Button className="mt-2" busy={busy} onClick={() => void send()}>
        Add this layer
      </Button>
      <Button tone="quiet" onClick={() => setMany(!many)}>
        Type many layers
      </Button>
      {many && <TypeMany where="layers" close={() => setMany(false)} />}
      <Trouble words={trouble} />
    </div>
  );
}
