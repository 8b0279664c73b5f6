import { useState } from "react";
import { useNavigate } from "react-router";
import { wordsFor } from "../api/errors";
import { useLayouts } from "../api/job";
import { useShelf, useShelfActs } from "../api/shelf";
import type { LayoutsView, ShelfLine } from "../api/types";
import { OpenPage } from "../frame/OpenPage";
import { BackToList } from "../parts/BackToList";
import { Button } from "../parts/Button";
import { Entry } from "../parts/Entry";
import { Failed, Waiting } from "../parts/States";
import { holds, SEARCH_FROM } from "../parts/search";
import { Trouble } from "../parts/Trouble";
import { useUnits } from "../parts/units";
import { YesNoSwitch } from "../parts/YesNoSwitch";
import { LayoutPictures } from "./LayoutPictures";
import { useStart } from "./useStart";

const START = {
  layout: "single",
  name: "",
  wheelbase: "",
  clearance: "",
  front_tyre: "90/90-21",
  rear_tyre: "140/80-18",
  year: "2024",
  variant: "",
  market: "",
  has_bars: false,
  has_centre_stand: false,
  has_side_stand: true,
  engine_is_frame: false,
};
type Typed = typeof START;

/** A new job from nothing but the bike: a layout to start from, or a bike of the shelf. */
export function NewJob() {
  return (
    <OpenPage title="A new job">
      <h2 className="text-2xl">Start with a bike</h2>
      <p className="mb-3 text-quiet">
        A layout fills in what is typical, marked as assumed with its band. Correct what you can
        measure; “Measure next” says what matters.
      </p>
      <WaysToStart />
      <BackToList />
    </OpenPage>
  );
}

/** Shown once all of it is there: nothing comes in above what is being typed. */
function WaysToStart() {
  const layouts = useLayouts();
  const shelf = useShelf();
  const failed = [layouts, shelf].find((asked) => asked.isLoadingError);
  if (failed) return <Failed error={failed.error} retry={() => void failed.refetch()} />;
  if (!layouts.data || !shelf.data) return <Waiting what="layouts and shelf" />;
  return (
    <>
      <FromShelf bikes={shelf.data.items.filter((item) => item.kind === "bike")} />
      <NewBike layouts={layouts.data} />
    </>
  );
}

/** Opens the survey of a job that was begun. */
function useStartSurvey() {
  const navigate = useNavigate();
  return useStart((job) => void navigate(`/jobs/${job}/survey`));
}

function FromShelf({ bikes }: { bikes: ShelfLine[] }) {
  const { start, trouble, busy } = useStartSurvey();
  const [words, setWords] = useState("");
  if (bikes.length === 0) return null;
  const shown = bikes.filter((bike) => holds(`${bike.name} ${bike.note}`, words));
  return (
    <section aria-label="Bikes on the shelf" className="mb-5">
      <h3 className="border-b border-ink text-lg">Bikes on the shelf</h3>
      {bikes.length >= SEARCH_FROM && (
        <Entry label="search the shelf" value={words} onChange={setWords} />
      )}
      {shown.length === 0 && <p>No bike on the shelf holds these words.</p>}
      <ul>
        {shown.map((bike) => (
          <li key={bike.id} className="border-b border-rule">
            <div className="flex items-center gap-3">
              <span className="flex-1">
                {bike.name} <span className="label">{bike.note}</span>
              </span>
              <Button busy={busy} onClick={() => void start({ ...START, shelf_bike: bike.id })}>
                Start with this one
              </Button>
            </div>
            <TrailRoll item={bike.id} name={bike.name} roll={bike.roll} />
          </li>
        ))}
      </ul>
      <Trouble words={trouble} />
    </section>
  );
}

type RollProps = { item: string; name: string; roll: Readonly<Record<string, string>> };

/** The trail roll of a bike on the shelf: edited here once, taken along into each of its jobs. */
function TrailRoll({ item, name, roll }: RollProps) {
  const { addTool, takeTool } = useShelfActs();
  const [open, setOpen] = useState(false);
  const [tool, setTool] = useState("");
  const [trouble, setTrouble] = useState("");
  const tools = Object.entries(roll);
  const act = async (work: Promise<unknown>) => {
    setTrouble("");
    try {
      await work;
      setTool("");
    } catch (error) {
      setTrouble(wordsFor(error));
    }
  };
  return (
    <div className="pb-1">
      <Button
        tone="quiet"
        aria-expanded={open}
        aria-label={`Trail roll of ${name}`}
        onClick={() => setOpen(!open)}
      >
        Trail roll:{" "}
        {tools.length === 0 ? "empty" : `${tools.length} tool${tools.length > 1 ? "s" : ""}`}
      </Button>
      {open && (
        <>
          <ul>
            {tools.map(([key, words]) => (
              <li key={key} className="flex items-center gap-3 border-t border-rule">
                <span className="flex-1">{words}</span>
                <Button tone="quiet" onClick={() => void act(takeTool(item, key))}>
                  Take “{words}” out
                </Button>
              </li>
            ))}
          </ul>
          <div className="flex items-end gap-2">
            <Entry label="a tool for the roll" value={tool} onChange={setTool} wide />
            <Button onClick={() => void act(addTool(item, tool))}>Put it in</Button>
          </div>
        </>
      )}
      <Trouble words={trouble} />
    </div>
  );
}

function NewBike({ layouts }: { layouts: LayoutsView }) {
  const { system } = useUnits();
  const { start, trouble, busy } = useStartSurvey();
  const [typed, setTyped] = useState(START);
  const [title, setTitle] = useState("");
  const set = (part: Partial<Typed>) => setTyped({ ...typed, ...part });
  const unit = system === "us" ? "in" : "mm";
  const send = () => void start({ ...typed, title });
  const entry = (name: keyof Typed & string, label: string, numeric = false) => (
    <Entry
      label={label}
      value={String(typed[name])}
      onChange={(value) => set({ [name]: value })}
      onEnter={send}
      numeric={numeric}
      {...(numeric && name !== "year" ? { unit } : {})}
    />
  );
  return (
    <form
      aria-label="A bike by its layout"
      onSubmit={(event) => event.preventDefault()}
      className="grid gap-x-5 gap-y-3 sm:grid-cols-2 lg:grid-cols-4"
    >
      <div className="sm:col-span-2 lg:col-span-4">
        <LayoutPictures
          pictures={layouts.pictures}
          value={typed.layout}
          onChange={(layout) => set({ layout })}
        />
      </div>
      {entry("name", "what you call the bike")}
      <Entry label="what this job is (may stay empty)" value={title} onChange={setTitle} />
      {entry("wheelbase", "wheelbase, axle to axle", true)}
      {entry("clearance", "ground clearance, stock", true)}
      {entry("front_tyre", "front tyre, its code")}
      {entry("rear_tyre", "rear tyre, its code")}
      {entry("year", "model year", true)}
      {entry("variant", "engine variant (may stay empty)")}
      {entry("market", "market it was sold in (may stay empty)")}
      <Fittings typed={typed} set={set} />
      <div className="sm:col-span-2 lg:col-span-4">
        <Trouble words={trouble} className="mb-2" />
        <Button tone="main" busy={busy} onClick={send}>
          {busy ? "Building the bike …" : "Build this bike"}
        </Button>
      </div>
    </form>
  );
}

type FittingsProps = { typed: Typed; set: (part: Partial<Typed>) => void };

/** What the bike has that a layout does not tell. */
function Fittings({ typed, set }: FittingsProps) {
  return (
    <div className="grid gap-x-5 gap-y-3 sm:col-span-2 sm:grid-cols-2 lg:col-span-4 lg:grid-cols-4">
      <YesNoSwitch
        label="The engine is the frame"
        on={typed.engine_is_frame}
        set={(engine_is_frame) => set({ engine_is_frame })}
      />
      <YesNoSwitch
        label="Crash bars are fitted"
        on={typed.has_bars}
        set={(has_bars) => set({ has_bars })}
      />
      <YesNoSwitch
        label="Centre stand"
        on={typed.has_centre_stand}
        set={(has_centre_stand) => set({ has_centre_stand })}
      />
      <YesNoSwitch
        label="Side stand"
        on={typed.has_side_stand}
        set={(has_side_stand) => set({ has_side_stand })}
      />
    </div>
  );
}
