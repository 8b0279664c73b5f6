import { useState } from "react";
import { Link, NavLink, useParams } from "react-router";
import { useFrame, useJobId } from "../../api/job";
import { useShelf, useShelfActs } from "../../api/shelf";
import { addPlate, addShelvedPlate, useSurvey } from "../../api/survey";
import { showInLedger } from "../../api/weighup";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Entry } from "../../parts/Entry";
import { Failed, Waiting } from "../../parts/States";
import { holds, SEARCH_FROM } from "../../parts/search";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { PlateEditor } from "./PlateEditor";
import { usePlateMaker } from "./usePlateMaker";

/** Every plate of the job, and the one in the editor. */
export function PlatesSheet() {
  const survey = useSurvey();
  const job = useJobId();
  const { plate } = useParams();
  const frame = useFrame();
  const { act, trouble } = useAct();
  if (survey.isPending) return <Waiting what="the plates" />;
  if (survey.isError) return <Failed error={survey.error} retry={() => void survey.refetch()} />;
  const plates = survey.data.plates;
  const inHand = plates.find((p) => p.in_hand)?.key ?? survey.data.stock_key;
  const key = plates.some((p) => p.key === plate) ? (plate as string) : inHand;
  return (
    <div className="grid grid-cols-1 gap-x-5 px-3 py-3 sm:px-5 lg:h-full lg:grid-cols-[13rem_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <div className="relative min-h-0 lg:overflow-y-auto">
        <ul aria-label="Plates of this job">
          {plates.map((p) => (
            <li key={p.key} className="border-b border-rule">
              <NavLink
                to={`/jobs/${job}/survey/plates/${p.key}`}
                onClick={() => {
                  // The ledger speaks of the plate that is open, until one is picked.
                  if (frame.data?.picked === false && p.role === "candidate" && !p.in_hand)
                    void act(showInLedger({ plate: p.key, reason: "" }));
                }}
                aria-current={p.key === key ? "page" : undefined}
                className={`block min-h-11 py-1.5 hover:bg-sheet ${
                  p.key === key ? "border-l-4 border-act pl-2 font-semibold" : "pl-3"
                }`}
              >
                {p.name}
                <span className="label block">
                  {p.role}
                  {p.in_hand ? ", in hand" : ""}
                </span>
              </NavLink>
            </li>
          ))}
        </ul>
        <Trouble words={trouble} />
        <NewPlate />
        <FromShelf />
      </div>
      <PlateEditor key={key} plateKey={key} plates={plates} />
    </div>
  );
}

function NewPlate() {
  const job = useJobId();
  const { make, trouble, busy } = usePlateMaker();
  const [name, setName] = useState("");
  const send = async () => {
    const done = await make(addPlate({ name }));
    if (done) setName("");
  };
  return (
    <div className="mt-3">
      <Link
        className="mb-2 inline-flex min-h-11 items-center text-act underline underline-offset-4"
        to={`/jobs/${job}/first`}
      >
        A plate by its shape and size
      </Link>
      <Entry label="a new plate, by its name" value={name} onChange={setName} onEnter={send} />
      <Button className="mt-1 w-full" busy={busy} onClick={() => void send()}>
        Enter a plate
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}

function FromShelf() {
  const shelf = useShelf();
  const { remove } = useShelfActs();
  const { make, trouble } = usePlateMaker();
  const plates = (shelf.data?.items ?? []).filter((i) => i.kind === "plate");
  const [chosen, setChosen] = useState("");
  const [words, setWords] = useState("");
  if (plates.length === 0) return null;
  const shown = plates.filter((p) => holds(`${p.name} ${p.note}`, words));
  const item = shown.find((p) => p.id === chosen) ?? shown[0];
  const search = plates.length >= SEARCH_FROM && (
    <Entry label="search the shelf" value={words} onChange={setWords} />
  );
  if (!item)
    return (
      <div className="mt-4 border-t border-ink pt-2">
        {search}
        <p>No plate on the shelf holds these words.</p>
      </div>
    );
  return (
    <div className="mt-4 border-t border-ink pt-2">
      {search}
      <Choice
        label="plates on the shelf"
        value={item.id}
        options={shown.map((p) => p.id)}
        names={Object.fromEntries(shown.map((p) => [p.id, p.name]))}
        onChange={setChosen}
      />
      <p className="label">
        {item.note}, put there on {item.at}
      </p>
      <div className="flex gap-1">
        <Button onClick={() => void make(addShelvedPlate({ item: item.id }))}>Take it</Button>
        <Button tone="quiet" onClick={() => void remove(item.id)}>
          Throw out
        </Button>
      </div>
      <Trouble words={trouble} />
    </div>
  );
}
