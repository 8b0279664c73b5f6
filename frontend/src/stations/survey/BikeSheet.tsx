import { useState } from "react";
import { useSearchParams } from "react-router";
import { useShelfActs } from "../../api/shelf";
import { useSurvey, useSurveyFollow } from "../../api/survey";
import type { PartView, SurveyView } from "../../api/types";
import { AsTable } from "../../drawing/AsTable";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useFollowing } from "../../parts/Focus";
import { Folded } from "../../parts/Folded";
import { ItemList } from "../../parts/ItemList";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { TypeMany } from "../../parts/TypeMany";
import { useUnits } from "../../parts/units";
import { Why } from "../../parts/Why";
import { PartEditor, useAdd } from "./PartEditor";
import { PhotoMounts } from "./PhotoMounts";

/** The bike from below and from the side, and every number to correct. */
export function BikeSheet() {
  const survey = useSurvey();
  const follow = useSurveyFollow(useFollowing());
  const [search, setSearch] = useSearchParams();
  const picked = search.get("part") ?? "";
  const setPicked = (key: string) => setSearch(key ? { part: key } : {}, { replace: true });
  if (survey.isPending) return <Waiting what="the survey" />;
  if (survey.isError) return <Failed error={survey.error} retry={() => void survey.refetch()} />;
  const view = survey.data;
  const drawn = follow ?? view;
  const all = [...view.parts, ...view.mounts];
  const chosen = all.find((p) => p.key === picked);
  const names = Object.fromEntries(all.map((p) => [p.key, p.name]));
  return (
    <div className="grid grid-cols-1 gap-x-5 px-3 py-3 sm:px-5 lg:h-full lg:grid-cols-[minmax(0,min(29rem,37vw))_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <section aria-label="Creeper view" className="min-h-0">
        <Drawing
          drawing={drawn.underside}
          picked={picked}
          names={names}
          onPick={(ref) => all.some((p) => p.key === ref) && setPicked(ref)}
          className="h-[30rem] w-full lg:h-full"
        />
      </section>
      <div className="relative min-h-0 lg:overflow-y-auto lg:pr-2">
        <div className="mb-2 flex flex-wrap items-baseline gap-x-6 gap-y-1">
          <h2 className="text-xl">What is under this bike</h2>
          <p>
            lowest point <Why figure={drawn.low} className="text-2xl" />
          </p>
          <p>
            breakover <Why figure={drawn.breakover} className="text-2xl" />
          </p>
          <p className="text-sm text-quiet">
            Dashed: the stock plate; the front tyre with its fork pressed in.
          </p>
        </div>
        {chosen && (
          <PartEditor
            key={chosen.key}
            part={chosen}
            where={view.parts.includes(chosen) ? "bike.parts" : "bike.mounts"}
            close={() => setPicked("")}
            pick={setPicked}
          />
        )}
        <Drawing
          drawing={drawn.profile}
          picked={picked}
          names={names}
          onPick={setPicked}
          className="max-h-52 w-full"
        />
        <PlacesTable parts={all} />
        {!chosen && <PartTable view={view} all={all} pick={setPicked} />}
      </div>
    </div>
  );
}

/** Where every part and mount is: what both drawings show, in words. */
function PlacesTable({ parts }: { parts: readonly PartView[] }) {
  const { system } = useUnits();
  const rows = parts.map((part) => {
    const at = (axis: string) =>
      part.fields
        .filter((f) => f.axis === axis)
        .map((f) => `${system === "us" ? f.us : f.metric}`)
        .join(" to ");
    return [part.mark, part.name, part.side, at("x"), at("y"), at("z")];
  });
  const unit = system === "us" ? "in" : "mm";
  return (
    <AsTable
      caption="Places of parts and mounts"
      head={[
        "mark",
        "what",
        "side",
        `behind the front axle, ${unit}`,
        `to the right, ${unit}`,
        `above ground, ${unit}`,
      ]}
      rows={rows}
    />
  );
}

type TableProps = {
  view: SurveyView;
  all: readonly PartView[];
  pick: (key: string) => void;
};

function PartTable({ view, all, pick }: TableProps) {
  return (
    <>
      <div className="mb-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        {view.bike.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Folded title="Model year, variant, tyres, stands, bars">
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          {view.more.map((field) => (
            <Field key={field.path} field={field} />
          ))}
        </div>
        <OntoShelf />
      </Folded>
      <Folded title="How hot it runs, before anything changes">
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          {view.baseline.map((field) => (
            <Field key={field.path} field={field} />
          ))}
        </div>
      </Folded>
      <PhotoMounts />
      <Adds pick={pick} />
      <ul className="grid sm:grid-cols-2 sm:gap-x-6" aria-label="Parts and mounts">
        {all.map((part) => (
          <PartLine key={part.key} part={part} pick={pick} />
        ))}
      </ul>
      <ItemList
        title="Bike joints that fitting disturbs"
        items={view.joints}
        where="bike.joints"
        add="Add a bike joint"
        empty="None noted. A peg bracket or engine bolt that comes loose on the way belongs here."
      />
    </>
  );
}

function OntoShelf() {
  const { add } = useShelfActs();
  const [said, setSaid] = useState("");
  return (
    <p className="mt-2 flex items-center gap-3">
      <Button
        onClick={() =>
          void add("bike")
            .then(() => setSaid("On the shelf: the next job can start from this bike."))
            .catch(() => setSaid("Not put there: try again."))
        }
      >
        Put this bike on the shelf
      </Button>
      <span role="status">{said}</span>
    </p>
  );
}

function Adds({ pick }: { pick: (key: string) => void }) {
  const { add, trouble } = useAdd();
  const [many, setMany] = useState<"" | "mounts" | "parts">("");
  const start = (where: string) => async () => {
    const key = await add(where);
    if (key) pick(key);
  };
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-3 border-b border-ink">
      <h3 className="flex-1 text-lg">Parts and mounts</h3>
      <Button tone="quiet" onClick={() => void start("bike.parts")()}>
        Add a part
      </Button>
      <Button tone="quiet" onClick={() => void start("bike.mounts")()}>
        Add a mount
      </Button>
      <Button tone="quiet" onClick={() => setMany(many === "mounts" ? "" : "mounts")}>
        Type many mounts
      </Button>
      <Button tone="quiet" onClick={() => setMany(many === "parts" ? "" : "parts")}>
        Type many parts
      </Button>
      <Trouble words={trouble} className="w-full" />
      {many && (
        <div className="w-full pb-2">
          <TypeMany key={many} where={many} close={() => setMany("")} />
        </div>
      )}
    </div>
  );
}

function PartLine({ part, pick }: { part: PartView; pick: (key: string) => void }) {
  return (
    <li className="border-b border-rule">
      <button
        type="button"
        className="flex min-h-11 w-full cursor-pointer items-center gap-3 text-left hover:bg-sheet"
        onClick={() => pick(part.key)}
        data-part={part.key}
      >
        <span className="num w-6 text-center text-lg">{part.mark}</span>
        <span className="min-w-0 flex-1">
          <span className="block truncate">{part.name}</span>
          <span className="label block truncate">
            {part.kind}, {part.side}
          </span>
        </span>
        <span className={part.known === "known" ? "text-sm text-quiet" : "text-sm font-semibold"}>
          {part.known}
        </span>
      </button>
    </li>
  );
}
