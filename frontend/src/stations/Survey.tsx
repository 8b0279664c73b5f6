import { useState } from "react";
import type { PartView } from "../api/client";
import { useSurvey } from "../api/hooks";
import { AsTable } from "../drawing/AsTable";
import { Drawing } from "../drawing/Drawing";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Failed, Waiting } from "../parts/States";
import { useUnits } from "../parts/units";
import { Why } from "../parts/Why";

/** Survey: the bike from below and from the side, and every number to correct. */
export function Survey() {
  const survey = useSurvey();
  const [picked, setPicked] = useState("");
  if (survey.isPending) return <Waiting what="the survey" />;
  if (survey.isError) return <Failed error={survey.error} retry={() => void survey.refetch()} />;
  const view = survey.data;
  const all = [...view.parts, ...view.mounts];
  const chosen = all.find((p) => p.key === picked);
  return (
    <div className="grid gap-x-5 px-3 py-3 sm:px-5 lg:h-full lg:grid-cols-[minmax(0,min(29rem,37vw))_minmax(0,1fr)]">
      <section aria-label="Creeper view" className="min-h-0">
        <Drawing
          drawing={view.creeper}
          picked={picked}
          onPick={(ref) => all.some((p) => p.key === ref) && setPicked(ref)}
          className="h-[30rem] w-full lg:h-full"
        />
      </section>
      <div className="flex min-h-0 flex-col gap-3">
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
          <h2 className="text-xl">What is under this bike</h2>
          <p>
            lowest point <Why figure={view.low} className="text-2xl" />
          </p>
          <p>
            breakover <Why figure={view.breakover} className="text-2xl" />
          </p>
          <p className="text-sm text-quiet">Dashed outline: the stock plate.</p>
        </div>
        <PlacesTable parts={all} />
        <Drawing
          drawing={view.profile}
          picked={picked}
          onPick={setPicked}
          className="max-h-56 w-full"
        />
        <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
          {chosen ? (
            <PartEditor part={chosen} close={() => setPicked("")} />
          ) : (
            <PartTable view={all} bike={view.bike} pick={setPicked} />
          )}
        </div>
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
        .filter((f) => f.path.endsWith(`.${axis}_mm`) || f.path.includes(`.${axis}_m`))
        .filter((f) => /\.[xyz]_(min_|max_)?mm$/.test(f.path))
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

function PartEditor({ part, close }: { part: PartView; close: () => void }) {
  return (
    <section aria-label={`Numbers of ${part.name}`} className="border border-ink bg-sheet p-3">
      <div className="flex items-center gap-3">
        <h3 className="flex-1 text-xl">
          {part.mark} · {part.name}{" "}
          <span className="font-text text-base font-normal text-quiet">
            {part.kind}, {part.side}
          </span>
        </h3>
        <Button onClick={close}>Back to the list</Button>
      </div>
      <p className="mb-2 text-sm text-quiet">
        x rearward from the front axle, y to the rider's right, z up from the ground. A corrected
        number counts as measured.
      </p>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
        {part.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
    </section>
  );
}

type TableProps = {
  view: readonly PartView[];
  bike: PartView["fields"];
  pick: (key: string) => void;
};

function PartTable({ view, bike, pick }: TableProps) {
  return (
    <>
      <div className="mb-3 grid grid-cols-2 gap-4 sm:grid-cols-3">
        {bike.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <ul className="grid sm:grid-cols-2 sm:gap-x-6" aria-label="Parts and mounts">
        {view.map((part) => (
          <li key={part.key} className="border-b border-rule">
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
              <span
                className={
                  part.known === "assumed" ? "text-sm font-semibold" : "text-sm text-quiet"
                }
              >
                {part.known}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
