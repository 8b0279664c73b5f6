import { addFarNut, removeFarNut } from "../../api/fitup";
import type { JointDetail, Schemas } from "../../api/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Findings } from "../../parts/Findings";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";
import { Why } from "../../parts/Why";

/** Nuts on the screw's end beyond the thread that it goes through, each with its own treatment. */
export function FarNuts({ joint }: { joint: JointDetail }) {
  const { act, trouble, busy } = useAct();
  return (
    <section aria-label="Beyond the thread">
      <h3 className="mt-3 border-b border-ink text-lg">Beyond the thread</h3>
      {joint.far.length === 0 && (
        <p className="text-sm text-quiet">Nothing: the screw ends in its first thread.</p>
      )}
      {joint.far.map((far) => (
        <FarNut key={far.key} far={far} joint={joint.key} />
      ))}
      <Button tone="quiet" busy={busy} onClick={() => void act(addFarNut(joint.key))}>
        Put a nut on its end
      </Button>
      <Trouble words={trouble} />
    </section>
  );
}

function FarNut({ far, joint }: { far: Schemas["FarNutView"]; joint: string }) {
  const { act, trouble, busy } = useAct();
  return (
    <article aria-label={far.name} data-far={far.key} className="border-b border-rule py-1">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="text-lg">{far.name}</b>
        <VerdictMark verdict={far.verdict} />
      </p>
      <Findings findings={far.findings} />
      <dl>
        {far.figures.map((figure) => (
          <div key={figure.key} className="flex items-baseline justify-between gap-2">
            <dt className="label">{figure.label}</dt>
            <dd>
              <Why figure={figure} className="text-lg" />
            </dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-2 gap-2">
        {far.fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Button tone="quiet" busy={busy} onClick={() => void act(removeFarNut(joint, far.key))}>
        Take this nut off
      </Button>
      <Trouble words={trouble} />
    </article>
  );
}
