import { takeOrder, useOrder } from "../../api/fitup";
import type { Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Findings } from "../../parts/Findings";
import { Failed, Waiting } from "../../parts/States";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

type View = Schemas["OrderView"];
type School = Schemas["SchoolView"];

/** Drawing home: the gap at each joint, which order closes them, what it pulls and eats. */
export function OrderSheet() {
  const order = useOrder();
  if (order.isPending) return <Waiting what="the gaps" />;
  if (order.isError) return <Failed error={order.error} retry={() => void order.refetch()} />;
  const view = order.data;
  return (
    <div className="grid grid-cols-1 gap-x-8 px-3 py-3 sm:px-5 lg:grid-cols-2">
      <section aria-label="Gaps">
        <h2 className="text-xl">Gaps of the {view.plate}, held up lightly</h2>
        <p>
          <VerdictMark verdict={view.verdict} />
        </p>
        <Findings findings={view.findings} />
        <ul className="mt-2">
          {view.gaps.map((gap) => (
            <li key={gap.key} data-gap={gap.key} className="border-b border-rule py-1.5">
              <p className="flex flex-wrap items-baseline gap-x-2">
                <span className="num w-7 text-2xl">{gap.number}</span>
                <span className="min-w-0 flex-1">{gap.name}</span>
                <span>
                  <Why figure={gap.gap} className="text-xl" />
                </span>
              </p>
              <p className="text-sm text-quiet">
                {gap.words} · its screw stands <Why figure={gap.reach} /> past the face
                {gap.eaten.value !== null && (
                  <>
                    {" "}
                    · eats <Why figure={gap.eaten} /> of its preload
                  </>
                )}
              </p>
              <div className="grid max-w-sm grid-cols-2 gap-2">
                {gap.fields.map((field) => (
                  <Field key={field.path} field={field} />
                ))}
              </div>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Orders" className="min-w-0">
        <h2 className="text-xl">Which order draws it home</h2>
        {view.not_known && <p>{view.not_known}</p>}
        <Cures view={view} />
        {view.schools.map((school) => (
          <SchoolPart key={school.key} school={school} />
        ))}
        {view.chosen && <CrossAgain />}
      </section>
    </div>
  );
}

function Cures({ view }: { view: View }) {
  if (view.cures.length === 0) return null;
  return (
    <div className="my-2 border-l-4 border-act bg-sheet px-3 py-1">
      <h3 className="text-lg">Instead of pulling</h3>
      <ul>
        {view.cures.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  );
}

function CrossAgain() {
  const { act, trouble, busy } = useAct();
  return (
    <>
      <Button className="mt-3" busy={busy} onClick={() => void act(takeOrder([]))}>
        Let the plan work it out again
      </Button>
      <Trouble words={trouble} />
    </>
  );
}

function SchoolPart({ school }: { school: School }) {
  const { act, trouble, busy } = useAct();
  return (
    <article data-school={school.key} className="mt-3 border-t border-ink pt-1">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="text-lg">{school.label}</h3>
        <p className="flex-1">
          {school.all_start ? "every screw starts" : "not every screw starts"}; at most{" "}
          <Why figure={school.most} />
        </p>
        {school.is_plan ? (
          <span className="label">the plan does this</span>
        ) : (
          <Button busy={busy} onClick={() => void act(takeOrder([...school.order]))}>
            Let the plan do this
          </Button>
        )}
      </div>
      <ol className="flex flex-wrap gap-x-4">
        {school.turns.map((turn) => (
          <li key={turn.number} className="min-w-40 flex-1 border-t border-rule py-0.5 text-sm">
            <b className="num text-xl">{turn.number}</b> gap <Why figure={turn.gap} />
            {!turn.starts && <b> does not start</b>}
            <span className="block text-quiet">{turn.words}</span>
          </li>
        ))}
      </ol>
      {school.against.map((words) => (
        <p key={words} className="text-sm">
          <VerdictMark verdict="mind" /> {words}
        </p>
      ))}
      <Trouble words={trouble} />
    </article>
  );
}
