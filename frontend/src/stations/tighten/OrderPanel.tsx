import { takeOrder } from "../../api/fitup";
import type { Schemas, TightenView } from "../../api/types";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { SwitchField } from "../../parts/Field";
import { Trouble } from "../../parts/Trouble";
import { useAct } from "../../parts/useAct";
import { VerdictMark } from "../../parts/Verdict";

type Order = Schemas["OrderChoice"];
const BY_HAND = "by hand";

/** The order of the final torques: why each is at its turn, schools, moves, what speaks against. */
export function OrderPanel({ view }: { view: TightenView }) {
  const { act, trouble, busy } = useAct();
  const { order } = view;
  if (order.turns.length < 2) return null;
  const cards = new Map(view.cards.map((c) => [c.card.joint, c.card]));
  const move = (keys: readonly string[]) => void act(takeOrder([...keys], [...order.starts]));
  return (
    <section aria-label="Order" className="mt-3 border-t border-ink pt-2">
      <h3 className="text-lg">The order, and why</h3>
      {order.against.map((words) => (
        <p key={words} className="my-1">
          <VerdictMark verdict="mind" /> {words}
        </p>
      ))}
      <School order={order} />
      <ol aria-label="Turns" className="gap-x-6 md:columns-2">
        {order.turns.map((turn, i) => (
          <li
            key={turn.joint}
            data-turn={turn.joint}
            className="flex break-inside-avoid items-center gap-2 border-b border-rule py-0.5"
          >
            <span className="num w-5 text-xl">{i + 1}</span>
            <span className="min-w-0 flex-1 leading-tight">
              joint {cards.get(turn.joint)?.number}, {cards.get(turn.joint)?.name}
              <span className="block text-sm text-quiet">{turn.reason}</span>
            </span>
            <Button
              tone="quiet"
              busy={busy}
              disabled={turn.earlier.length === 0}
              aria-label={`joint ${cards.get(turn.joint)?.number} one turn earlier`}
              onClick={() => move(turn.earlier)}
            >
              earlier
            </Button>
            <Button
              tone="quiet"
              busy={busy}
              disabled={turn.later.length === 0}
              aria-label={`joint ${cards.get(turn.joint)?.number} one turn later`}
              onClick={() => move(turn.later)}
            >
              later
            </Button>
          </li>
        ))}
      </ol>
      <div className="mt-1">
        <SwitchField field={order.dry_fit} label={order.dry_fit.label} />
      </div>
      <Trouble words={trouble} />
    </section>
  );
}

/** Which school the plan follows, and the reason that it gives. */
function School({ order }: { order: Order }) {
  const { act, trouble } = useAct();
  const taken = order.schools.find((s) => s.taken)?.school;
  const names = Object.fromEntries(order.schools.map((s) => [s.school.key, s.school.label]));
  const take = (key: string) => {
    const school = order.schools.find((s) => s.school.key === key)?.school;
    if (school) void act(takeOrder([...school.order], [...school.starts]));
  };
  return (
    <div className="my-1 flex flex-wrap items-end gap-x-4">
      <div className="w-64">
        <Choice
          label="order"
          value={taken?.key ?? BY_HAND}
          options={[...(taken ? [] : [BY_HAND]), ...order.schools.map((s) => s.school.key)]}
          names={names}
          onChange={take}
        />
      </div>
      <p className="flex-1 pb-1 text-quiet">{taken?.reason ?? "Put in this order by hand."}</p>
      <Trouble words={trouble} />
    </div>
  );
}
