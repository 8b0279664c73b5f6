import { Link, useParams } from "react-router";
import { addShaped, useShapes } from "../api/survey";
import type { ShapesView } from "../api/types";
import { Drawing } from "../drawing/Drawing";
import { OpenPage } from "../frame/OpenPage";
import { AskSize } from "../parts/AskSize";
import { Entry } from "../parts/Entry";
import { Picks } from "../parts/Picks";
import { type Question, Questions } from "../parts/Questions";
import { Failed, Waiting } from "../parts/States";
import { useUnits } from "../parts/units";
import { useAct } from "../parts/useAct";
import { useTyped } from "../parts/useTyped";

const LINK = "text-act underline underline-offset-4";
const START = {
  shape: "flat pan",
  sheet: "",
  thickness: "",
  length: "",
  width: "",
  height: "",
  mass: "",
  price: "",
  name: "",
};
const ENOUGH = 2;
/** More plates than this are counted, not named. */
const LISTED = 3;

/** The second step to an answer: plates by shape, sheet and overall sizes, one after another. */
export function WhichPlate() {
  const shapes = useShapes();
  const title = "Which plate? The plates";
  return (
    <OpenPage title={shapes.data ? `${title} · ${shapes.data.title}` : title}>
      {shapes.isPending && <Waiting what="shapes of plates" />}
      {shapes.isLoadingError && <Failed error={shapes.error} retry={() => void shapes.refetch()} />}
      {shapes.data && (
        <>
          <h2 className="text-2xl">
            Which plate? {shapes.data.plates.length ? "Another plate" : "The first plate"} for{" "}
            {shapes.data.bike}
          </h2>
          <Entered plates={shapes.data.plates} />
          <AboutPlate key={shapes.data.plates.length} view={shapes.data} />
        </>
      )}
    </OpenPage>
  );
}

/** Plates by name, where they are few. */
const named = (plates: readonly string[]) =>
  plates.length > LISTED ? `${plates.length} plates, last ${plates.at(-1)}` : plates.join("; ");

/** What is entered so far, and the way to the answer once there is something to weigh. */
function Entered({ plates }: { plates: readonly string[] }) {
  const { job } = useParams();
  if (plates.length === 0)
    return (
      <p className="mb-2 text-quiet">
        What stays empty is taken as usual and marked so. It hangs on the mounts that it reaches.
      </p>
    );
  return (
    <p className="mb-2 flex flex-wrap items-center gap-x-4" role="status">
      <span>
        Entered: <b>{named(plates)}</b>
      </span>
      {plates.length >= ENOUGH ? (
        <Link
          className="inline-flex min-h-11 items-center bg-act px-4 font-semibold text-paper"
          to={`/jobs/${job}/weigh-up`}
        >
          See the answer
        </Link>
      ) : (
        <span className="text-quiet">One more to weigh it against.</span>
      )}
    </p>
  );
}

function AboutPlate({ view }: { view: ShapesView }) {
  const { job } = useParams();
  const { typed, set, clear } = useTyped(`shield-which-plate-${job}`, START);
  const { act, trouble, busy } = useAct();
  const { system } = useUnits();
  const send = async () => {
    if (await act(addShaped({ ...typed, system }))) clear();
  };
  const enter = () => void send();
  return (
    <Questions
      questions={questionsOf(view, typed, set, enter)}
      last="Enter this plate"
      lastBusy="Hanging it …"
      send={enter}
      busy={busy}
      trouble={trouble}
    >
      <Link
        className={`inline-flex min-h-11 items-center ${LINK}`}
        to={`/jobs/${job}/survey/plates`}
      >
        The full forms
      </Link>
    </Questions>
  );
}

type Typed = typeof START;

function questionsOf(
  view: ShapesView,
  typed: Typed,
  set: (part: Partial<Typed>) => void,
  enter: () => void,
): Question[] {
  const shape = view.shapes.find((s) => s.key === typed.shape) ?? view.shapes[0];
  const sheet = view.sheets.find((s) => s.key === typed.sheet) ?? view.sheets[0];
  return [
    {
      key: "shape",
      title: "What shape is it?",
      wide: true,
      ask: (
        <Picks
          label="Shape"
          className="sm:grid-cols-2 lg:grid-cols-4"
          value={typed.shape}
          onChange={(key) => set({ shape: key })}
          picks={view.shapes.map((of) => ({
            key: of.key,
            words: of.words,
            picture: <Drawing drawing={of.picture} className="h-32 w-full" />,
          }))}
        />
      ),
    },
    {
      key: "sheet",
      title: "What is it of?",
      ask: (
        <>
          <Picks
            label="Sheet"
            className="grid-cols-2"
            value={typed.sheet}
            onChange={(key) => set({ sheet: key })}
            picks={[...view.sheets, { key: "", words: "I do not know" }]}
          />
          <div className="h-2" />
          {sheet && (
            <AskSize
              size={{ key: "thickness", label: "thickness", usual: sheet.thickness, sketch: null }}
              value={typed.thickness}
              onChange={(thickness) => set({ thickness })}
              onEnter={enter}
            />
          )}
        </>
      ),
    },
    {
      key: "sizes",
      title: "How large is it?",
      ask: shape && (
        <>
          <Drawing drawing={shape.picture} className="h-36 w-full lg:hidden" />
          {shape.sizes.map((size) => (
            <AskSize
              key={size.key}
              size={size}
              value={typed[size.key as keyof Typed]}
              onChange={(value) => set({ [size.key]: value })}
              onEnter={enter}
            />
          ))}
        </>
      ),
    },
    {
      key: "said",
      title: "What does its maker say?",
      ask: <Said view={view} typed={typed} set={set} enter={enter} />,
    },
  ];
}

type SaidProps = {
  view: ShapesView;
  typed: Typed;
  set: (part: Partial<Typed>) => void;
  enter: () => void;
};

/** Mass and price as they stand in an offer, and a name to tell it by. */
function Said({ view, typed, set, enter }: SaidProps) {
  const { system } = useUnits();
  return (
    <div className="grid gap-2">
      <Entry
        label="mass (may stay empty)"
        value={typed.mass}
        onChange={(mass) => set({ mass })}
        onEnter={enter}
        unit={system === "us" ? "lb" : "kg"}
        numeric
      />
      <Entry
        label="price (may stay empty)"
        value={typed.price}
        onChange={(price) => set({ price })}
        onEnter={enter}
        unit={view.currency}
        numeric
      />
      <Entry
        label="what you call it (may stay empty)"
        value={typed.name}
        onChange={(name) => set({ name })}
        onEnter={enter}
      />
    </div>
  );
}
