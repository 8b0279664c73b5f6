import { removeLine } from "../../api/kit";
import type { KitLineView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";

/** What the list says of a line, to be corrected. */
export function LineEditor({ line }: { line: KitLineView }) {
  const { act, trouble } = useAct();
  return (
    <div className="mt-2 border border-ink bg-sheet p-3">
      <div className="grid grid-cols-2 gap-3 md:grid-cols-7">
        {[...line.fields, ...line.more].map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </div>
      <Button className="mt-2" onClick={() => void act(removeLine(line.key))}>
        Take this line out
      </Button>
      <Trouble words={trouble} />
    </div>
  );
}
