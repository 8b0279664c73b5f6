import { useJobId } from "../../api/job";
import { useKit } from "../../api/kit";
import { Debts } from "../../parts/Debts";
import { Empty, Failed, Waiting } from "../../parts/States";

const LINK = "inline-flex min-h-11 items-center border border-act px-3.5 font-semibold text-act";

/** All that is to buy, with what else the joints would take; as a slip, a file, or the phone. */
export function BuySheet() {
  const kit = useKit();
  const job = useJobId();
  if (kit.isPending) return <Waiting what="what is to buy" />;
  if (kit.isError) return <Failed error={kit.error} retry={() => void kit.refetch()} />;
  const view = kit.data;
  return (
    <div className="mx-auto max-w-4xl px-3 py-3 sm:px-5">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="flex-1 basis-60 text-xl">To buy for the {view.plate}</h2>
        <a
          className={LINK}
          href={`/api/jobs/${job}/kit/to-buy.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Slip for the shop
        </a>
        <a className={LINK} href={`/api/jobs/${job}/kit/to-buy.csv`} download="to-buy.csv">
          As CSV
        </a>
      </div>
      {view.uncounted > 0 && (
        <p className="my-2 border-l-4 border-rule bg-sheet px-3 py-1">
          {view.uncounted} lines are not counted yet: what is short of them is not known.
        </p>
      )}
      <Debts debts={view.debts} />
      {view.buy.length === 0 ? (
        <Empty>
          {view.joints.length === 0
            ? "No joint is there yet, so nothing is asked for."
            : view.uncounted > 0
              ? "Every joint finds its parts in the list; count it to know whether they are there."
              : "Nothing is to buy."}
        </Empty>
      ) : (
        <ul className="mt-2" aria-label="To buy">
          {view.buy.map((item) => (
            <li
              key={`${item.what}${item.why}${item.joints.join()}`}
              className="grid grid-cols-[3rem_1fr] gap-x-3 border-b border-rule py-1.5"
            >
              <span className="num text-right text-3xl">{item.count}</span>
              <span className="min-w-0">
                <span className="num block text-xl">{item.what}</span>
                {item.or_else.length > 0 && (
                  <span className="block">
                    or {item.or_else.join(", ")}: the stack takes it too
                  </span>
                )}
                <span className="label block">
                  {item.joints.length > 0 ? `joint ${item.joints.join(", ")} · ` : ""}
                  {item.why}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
