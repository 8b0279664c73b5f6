import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { useQueryClient } from "@tanstack/react-query";
import { addItem, removeItem, useJobId } from "../../api/job";
import { useSketch } from "../../api/survey";
import type { PartView, SurveyView } from "../../api/types";
import { Drawing } from "../../drawing/Drawing";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useTarget } from "../../parts/Focus";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";

type Props = {
  part: PartView;
  where: "bike.parts" | "bike.mounts";
  close: () => void;
  pick: (key: string) => void;
};

const keysOf = (view: SurveyView | undefined) =>
  new Set([...(view?.parts ?? []), ...(view?.mounts ?? [])].map((p) => p.key));

/** Adds to a list of the bike and answers with the key of what came. */
export function useAdd() {
  const { act, trouble } = useAct();
  const queries = useQueryClient();
  const job = useJobId();
  const view = () => queries.getQueryData<SurveyView>(["job", job, "survey"]);
  const add = async (where: string, like = "", mirror = false): Promise<string> => {
    const before = keysOf(view());
    if (!(await act(addItem(where, like, mirror)))) return "";
    return [...keysOf(view())].find((key) => !before.has(key)) ?? "";
  };
  return { add, act, trouble };
}

/** Every number of a part or mount; the tape sketch of the one in hand; copies and mirrors. */
export function PartEditor({ part, where, close, pick }: Props) {
  const { add, act, trouble } = useAdd();
  const copy = (mirror: boolean) => async () => {
    const key = await add(where, part.key, mirror);
    if (key) pick(key);
  };
  return (
    <section aria-label={`Numbers of ${part.name}`} className="border border-ink bg-sheet p-3">
      <div className="flex flex-wrap items-center gap-x-2">
        <h3 className="flex-1 text-xl">
          {part.mark} · {part.name}{" "}
          <span className="font-text text-base font-normal text-quiet">
            {part.kind}, {part.side}, {part.known}
          </span>
        </h3>
        <Button tone="quiet" onClick={() => void copy(false)()}>
          Duplicate
        </Button>
        <Button tone="quiet" onClick={() => void copy(true)()}>
          Mirror left/right
        </Button>
        <Button
          tone="quiet"
          onClick={() => void act(removeItem(where, part.key)).then((done) => done && close())}
        >
          Take out
        </Button>
        <Button onClick={close}>Back to the list</Button>
      </div>
      <Trouble words={trouble} />
      <div className="grid gap-x-4 lg:grid-cols-[1fr_15rem]">
        <div className="grid grid-cols-2 content-start gap-x-4 gap-y-2 sm:grid-cols-3">
          {part.fields.map((field) => (
            <Field key={field.path} field={field} />
          ))}
        </div>
        <TapeSketch part={part} />
      </div>
      {part.rest.length > 0 && <Rest part={part} />}
    </section>
  );
}

/** What is assumed from the kind until it is measured; open where something hangs on it. */
function Rest({ part }: { part: PartView }) {
  return (
    <Disclosure as="div" className="mt-2 border-t border-rule" defaultOpen={part.decides !== ""}>
      <DisclosureButton className="min-h-11 cursor-pointer text-left text-act underline underline-offset-4">
        Thread, depths, torque, stiffness: assumed from its kind until entered
      </DisclosureButton>
      <DisclosurePanel>
        {part.decides && <p className="pb-1 text-sm">It decides: {part.decides}.</p>}
        <div className="grid grid-cols-2 content-start gap-x-4 gap-y-2 sm:grid-cols-4">
          {part.rest.map((field) => (
            <Field key={field.path} field={field} />
          ))}
        </div>
      </DisclosurePanel>
    </Disclosure>
  );
}

/** From where to where to hold the tape for the number in hand. */
function TapeSketch({ part }: { part: PartView }) {
  const target = useTarget();
  const own = [...part.fields, ...part.rest].find((f) => f.path === target?.path);
  const sketch = useSketch(part.key, own);
  if (!own || !sketch.data || own.axis === "") {
    return (
      <p className="text-sm text-quiet">
        Tap a place in x, y or z: a sketch shows where the tape goes. x runs rearward from the front
        axle, y to the rider's right, z up from the ground.
      </p>
    );
  }
  return (
    <figure
      className="order-first lg:sticky lg:top-0 lg:order-none lg:self-start"
      data-testid="tape-sketch"
    >
      <Drawing drawing={sketch.data.drawing} className="max-h-52 w-full" />
      <figcaption className="text-sm">{sketch.data.words}</figcaption>
    </figure>
  );
}
