import { payDebt } from "../api/keep";
import { removeSubstitute } from "../api/kit";
import { cameOverNetwork } from "../api/phones";
import type { Schemas } from "../api/types";
import { Button } from "./Button";
import { Trouble } from "./Trouble";
import { useAct } from "./useAct";
import { VerdictMark } from "./Verdict";

type Debt = Schemas["Debt"];

/** Parts that stand in for others, as their joints judge them; a debt is paid with a tap, also from a phone. */
export function Debts({ debts }: { debts: readonly Debt[] }) {
  const { act, trouble, busy } = useAct();
  const pay = ({ key, instead_of }: Debt) => act(payDebt({ key, instead_of }));
  const open = debts.filter((debt) => !debt.paid);
  if (open.length === 0) return null;
  return (
    <section aria-label="Substitutes" className="mt-2">
      <h3 className="border-b border-ink text-lg">Substitutes and what is owed</h3>
      <ul>
        {open.map((debt) => (
          <li
            key={debt.key}
            data-debt={debt.key}
            className="flex flex-wrap items-start gap-x-4 gap-y-1 border-b border-rule py-1.5"
          >
            <span className="min-w-0 flex-1 basis-72">
              <span className="flex flex-wrap items-center gap-x-2">
                <VerdictMark verdict={debt.verdict} />
                <b>{debt.used}</b> in joint {debt.joint}, instead of {debt.instead_of}
                {debt.for_good ? ", for good" : ""}
              </span>
              {debt.findings.map((found) => (
                <span key={found.text} className="block text-sm">
                  {found.text}
                </span>
              ))}
            </span>
            {debt.owed && (
              <Button busy={busy} onClick={() => void pay(debt)}>
                Its own part is in
              </Button>
            )}
            {!cameOverNetwork() && (
              <Button tone="quiet" busy={busy} onClick={() => void act(removeSubstitute(debt.key))}>
                It was never there
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Trouble words={trouble} />
    </section>
  );
}
