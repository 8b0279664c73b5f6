import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { photoAt } from "../../api/files";
import { useJobId } from "../../api/job";
import {
  noteLooked,
  noteOil,
  notePart,
  noteRide,
  noteText,
  noteWarmth,
  noteWear,
} from "../../api/keep";
import type { KeepView, Write } from "../../api/types";
import { Button } from "../../parts/Button";
import { Cautions } from "../../parts/Cautions";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { PhotoPick } from "../../parts/PhotoPick";
import { Trouble } from "../../parts/Trouble";
import { useUnits } from "../../parts/units";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { WithKeep } from "./withKeep";

const KINDS = ["Ride", "Look over", "Oil change", "Wear", "Part", "Warmth", "Note"] as const;
type Kind = (typeof KINDS)[number];
/** What is done under the bike: its cautions stand above it. */
const UNDERNEATH: readonly Kind[] = ["Look over", "Oil change", "Wear", "Part"];

/** One tap for what happened, a few figures, one tap to keep it. */
export function LogSheet() {
  return <WithKeep>{(view) => <Sheet view={view} />}</WithKeep>;
}

function Sheet({ view }: { view: KeepView }) {
  const [kind, setKind] = useState<Kind>("Ride");
  const [said, setSaid] = useState("");
  const kept = (words: string) => setSaid(words);
  return (
    <div className="mx-auto max-w-3xl px-3 py-3 sm:px-5">
      <h2 className="text-2xl">What happened?</h2>
      <div className="my-2 grid grid-cols-2 gap-2 sm:grid-cols-4">
        {KINDS.map((name) => (
          <Button
            key={name}
            tone={name === kind ? "main" : "plain"}
            aria-pressed={name === kind}
            className="min-h-14! text-lg"
            onClick={() => {
              setKind(name);
              setSaid("");
            }}
          >
            {name}
          </Button>
        ))}
        <LinkButton to="plate">A blow</LinkButton>
        <LinkButton to="joints">Re-check</LinkButton>
      </div>
      <section aria-label={kind} className="border border-ink bg-sheet p-3">
        {UNDERNEATH.includes(kind) && <Cautions texts={view.cautions} />}
        {kind === "Ride" && <Ride kept={kept} />}
        {kind === "Look over" && <Look view={view} kept={kept} />}
        {kind === "Oil change" && <Oil view={view} kept={kept} />}
        {kind === "Wear" && <Wear view={view} kept={kept} />}
        {kind === "Part" && <Part view={view} kept={kept} />}
        {kind === "Warmth" && <Warmth view={view} kept={kept} />}
        {kind === "Note" && <Note kept={kept} />}
      </section>
      <p role="status" className="mt-2 text-lg">
        {said && (
          <>
            <VerdictMark verdict="sound" quiet /> {said}
          </>
        )}
      </p>
    </div>
  );
}

/** To the sheet where it is tapped on the drawing. */
function LinkButton({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Link
      to={`../${to}`}
      relative="path"
      className="inline-flex min-h-14 items-center justify-center border border-act px-3.5 text-lg font-semibold text-act"
    >
      {children}
    </Link>
  );
}

type FormProps = { kept: (words: string) => void };

/** A form's fields, and one button that keeps them. */
function Form({
  write,
  clear,
  kept,
  children,
}: FormProps & {
  write: () => Write;
  clear: () => void;
  children: ReactNode;
}) {
  const { act, trouble, busy } = useAct();
  const send = async () => {
    kept("");
    const done = await act(write());
    if (!done) return;
    clear();
    kept(done === "held" ? "It waits on this device." : `Kept: ${done.words}`);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <div className="grid items-end gap-3 sm:grid-cols-2">{children}</div>
      <Button tone="main" type="submit" className="mt-3 min-h-14! w-full text-xl" busy={busy}>
        Keep it
      </Button>
      <Trouble words={trouble} className="mt-2 text-lg" />
    </form>
  );
}

function Ride({ kept }: FormProps) {
  const { system } = useUnits();
  const [km, setKm] = useState("");
  const [hours, setHours] = useState("");
  return (
    <Form
      kept={kept}
      write={() => noteRide({ km, hours, system })}
      clear={() => {
        setKm("");
        setHours("");
      }}
    >
      <Entry
        label="how far"
        value={km}
        onChange={setKm}
        unit={system === "us" ? "mi" : "km"}
        numeric
      />
      <Entry label="in the saddle" value={hours} onChange={setHours} unit="h" numeric />
    </Form>
  );
}

/** Things to look at, each ticked with a thumb. */
function Looks({
  view,
  looked,
  set,
}: {
  view: KeepView;
  looked: readonly string[];
  set: (now: string[]) => void;
}) {
  return (
    <ul className="sm:col-span-2" aria-label="Looked at">
      {Object.entries(view.looks).map(([item, words]) => (
        <li key={item}>
          <label className="flex min-h-14 items-center gap-3 border-b border-rule">
            <input
              type="checkbox"
              className="size-7 accent-(--color-act)"
              checked={looked.includes(item)}
              onChange={() =>
                set(looked.includes(item) ? looked.filter((x) => x !== item) : [...looked, item])
              }
            />
            <span>
              <b>{item}</b>: {words}
            </span>
          </label>
        </li>
      ))}
    </ul>
  );
}

function Look({ view, kept }: FormProps & { view: KeepView }) {
  const [looked, setLooked] = useState<string[]>([]);
  const [found, setFound] = useState("");
  return (
    <Form
      kept={kept}
      write={() => noteLooked({ looked, found })}
      clear={() => {
        setLooked([]);
        setFound("");
      }}
    >
      <Looks view={view} looked={looked} set={setLooked} />
      <Entry label="what was found (empty: all well)" value={found} onChange={setFound} />
    </Form>
  );
}

const NUTS = ["not said", "new", "used again"] as const;

/** Which joints came off for the oil: they are loose until they are torqued again. */
function CameOff({
  view,
  off,
  set,
}: {
  view: KeepView;
  off: readonly string[];
  set: (now: readonly string[]) => void;
}) {
  return (
    <fieldset className="sm:col-span-2">
      <legend className="label">joints that came off (they are to be torqued again)</legend>
      <div className="flex flex-wrap gap-2">
        {view.joints.map(({ recheck: { joint } }) => (
          <Button
            key={joint.key}
            className="min-h-12!"
            tone={off.includes(joint.key) ? "main" : "plain"}
            aria-pressed={off.includes(joint.key)}
            onClick={() =>
              set(
                off.includes(joint.key)
                  ? off.filter((key) => key !== joint.key)
                  : [...off, joint.key],
              )
            }
          >
            {joint.number}
          </Button>
        ))}
      </div>
    </fieldset>
  );
}

function Oil({ view, kept }: FormProps & { view: KeepView }) {
  const { act, trouble } = useAct();
  const [minutes, setMinutes] = useState("");
  const [came_off, setOff] = useState("");
  const [off, setOffJoints] = useState<readonly string[]>(view.oil_joints);
  const [nuts, setNuts] = useState<(typeof NUTS)[number]>("not said");
  const [looked, setLooked] = useState<string[]>([]);
  const [found, setFound] = useState("");
  return (
    <>
      <Form
        kept={(words) => {
          kept(words);
          // What was looked at with the plate off is a line of its own.
          if (words && (looked.length > 0 || found)) void act(noteLooked({ looked, found }));
        }}
        write={() => noteOil({ minutes, came_off, joints: [...off], nuts })}
        clear={() => {
          setMinutes("");
          setOff("");
          setLooked([]);
          setFound("");
        }}
      >
        <Entry label="how long it took" value={minutes} onChange={setMinutes} unit="min" numeric />
        <Entry label="what came off, in words" value={came_off} onChange={setOff} />
        <CameOff view={view} off={off} set={setOffJoints} />
        {view.lock_nuts.some((key) => off.includes(key)) && (
          <Choice
            label="their lock nuts are"
            value={nuts}
            options={NUTS}
            onChange={(value) => setNuts(value as typeof nuts)}
          />
        )}
        <Looks view={view} looked={looked} set={setLooked} />
        <Entry label="what was found (empty: all well)" value={found} onChange={setFound} />
      </Form>
      <Trouble words={trouble && `The oil change is kept, what was looked at is not. ${trouble}`} />
    </>
  );
}

function Wear({ view, kept }: FormProps & { view: KeepView }) {
  const { system } = useUnits();
  const [place, setPlace] = useState(view.worn[0]?.place ?? "");
  const [text, setText] = useState("");
  return (
    <Form kept={kept} write={() => noteWear({ place, text, system })} clear={() => setText("")}>
      <Entry label="where" value={place} onChange={setPlace} />
      <Entry
        label="thickness at its thinnest"
        value={text}
        onChange={setText}
        unit={system === "us" ? "in" : "mm"}
        numeric
        takes="mm"
      />
    </Form>
  );
}

function Part({ view, kept }: FormProps & { view: KeepView }) {
  const [what, setWhat] = useState("");
  const [done, setDone] = useState(view.mended[0] ?? "");
  const [cost, setCost] = useState("");
  return (
    <Form
      kept={kept}
      write={() => notePart({ what, done, cost })}
      clear={() => {
        setWhat("");
        setCost("");
      }}
    >
      <Entry label="which part" value={what} onChange={setWhat} />
      <Choice label="was" value={done} options={view.mended} onChange={setDone} />
      <Entry label="what it cost" value={cost} onChange={setCost} numeric />
    </Form>
  );
}

function Warmth({ view, kept }: FormProps & { view: KeepView }) {
  const { system } = useUnits();
  const degrees = system === "us" ? "°F" : "°C";
  const [which, setWhich] = useState("with the plate");
  const [air, setAir] = useState("");
  const [running, setRunning] = useState("");
  const [fan, setFan] = useState("");
  const [ride, setRide] = useState("");
  return (
    <>
      <p className="mb-2">
        <VerdictMark verdict={view.warmth.verdict} /> {view.warmth.words}
      </p>
      <Form
        kept={kept}
        write={() =>
          noteWarmth({ with_plate: which === "with the plate", air, running, fan, ride, system })
        }
        clear={() => {
          setAir("");
          setRunning("");
          setFan("");
        }}
      >
        <Choice
          label="ridden"
          value={which}
          options={["with the plate", "without the plate"]}
          onChange={setWhich}
        />
        <Entry label="which ride (the same name compares)" value={ride} onChange={setRide} />
        <Entry label="the air" value={air} onChange={setAir} unit={degrees} numeric />
        <Entry label="it ran at" value={running} onChange={setRunning} unit={degrees} numeric />
        <Entry label="the fan ran" value={fan} onChange={setFan} unit="min" numeric />
      </Form>
    </>
  );
}

function Note({ kept }: FormProps) {
  const [text, setText] = useState("");
  const [photo, setPhoto] = useState("");
  const job = useJobId();
  const clear = () => {
    setText("");
    setPhoto("");
  };
  return (
    <Form kept={kept} write={() => noteText({ text, photo, step: "" })} clear={clear}>
      <Entry label="in words" value={text} onChange={setText} wide />
      <div className="flex flex-wrap items-center gap-3">
        <PhotoPick words={photo ? "Another photo instead" : "Add a photo"} took={setPhoto} />
        {photo && <img src={photoAt(job, photo)} alt="To be kept" className="max-h-32" />}
      </div>
    </Form>
  );
}
