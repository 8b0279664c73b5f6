import { Link, useNavigate } from "react-router";
import { useLayouts } from "../api/job";
import type { LayoutsView } from "../api/types";
import { OpenPage } from "../frame/OpenPage";
import { AskSize } from "../parts/AskSize";
import { BackToList } from "../parts/BackToList";
import { Entry } from "../parts/Entry";
import { Picks } from "../parts/Picks";
import { type Question, Questions } from "../parts/Questions";
import { Failed, Waiting } from "../parts/States";
import { usePick } from "../parts/units";
import { useTyped } from "../parts/useTyped";
import { LayoutPictures } from "./LayoutPictures";
import { useStart } from "./useStart";

const START = { layout: "single", riding: "forest trail", wheelbase: "", clearance: "", name: "" };

/** The first of two steps to an answer: the bike, by what anybody can say of it. */
export function WhichBike() {
  const layouts = useLayouts();
  return (
    <OpenPage title="Which plate? The bike">
      <h2 className="text-2xl">Which plate? First the bike</h2>
      <p className="mb-2 text-quiet">
        What stays empty is taken as usual and marked so. Then come the plates.{" "}
        <Link className="text-act underline underline-offset-4" to="/new">
          The full form, or a bike of the shelf
        </Link>
      </p>
      {layouts.isPending && <Waiting what="the layouts" />}
      {layouts.isLoadingError && (
        <Failed error={layouts.error} retry={() => void layouts.refetch()} />
      )}
      {layouts.data && <AboutBike layouts={layouts.data} />}
      <BackToList />
    </OpenPage>
  );
}

function AboutBike({ layouts }: { layouts: LayoutsView }) {
  const { typed, set, clear } = useTyped("shield-which-bike", START);
  const navigate = useNavigate();
  const { start, trouble, busy } = useStart((job) => {
    clear();
    void navigate(`/jobs/${job}/first`);
  });
  const pick = usePick();
  const send = () => void start({ ...typed, assume: true });
  const layout = layouts.pictures.find((p) => p.key === typed.layout) ?? layouts.pictures[0];
  const sizes = layout?.sizes ?? [];
  const questions: Question[] = [
    {
      key: "layout",
      title: "What is under it?",
      wide: true,
      ask: (
        <LayoutPictures
          pictures={layouts.pictures}
          value={typed.layout}
          onChange={(key) => set({ layout: key })}
          low
        />
      ),
    },
    {
      key: "riding",
      title: "How is it ridden?",
      wide: true,
      ask: (
        <Picks
          label="How it is ridden"
          className="lg:grid-cols-4"
          value={typed.riding}
          onChange={(riding) => set({ riding })}
          picks={layouts.riding.map((of) => ({
            key: of.key,
            words: of.key,
            more: `${of.words}, ${pick(of.energy).replace(" ", "\u00a0")}`,
          }))}
        />
      ),
    },
    ...sizes.map((size) => ({
      key: size.key,
      title: size.key === "wheelbase" ? "How long is it?" : "How high is it off the ground?",
      ask: (
        <AskSize
          size={size}
          value={size.key === "wheelbase" ? typed.wheelbase : typed.clearance}
          onChange={(value) => set({ [size.key]: value })}
          onEnter={send}
        />
      ),
    })),
    {
      key: "name",
      title: "What do you call it?",
      ask: (
        <Entry
          label="name of the bike (may stay empty)"
          value={typed.name}
          onChange={(name) => set({ name })}
          onEnter={send}
        />
      ),
    },
  ];
  return (
    <Questions
      questions={questions}
      last="On to the plates"
      lastBusy="Building the bike …"
      send={send}
      busy={busy}
      trouble={trouble}
    />
  );
}
