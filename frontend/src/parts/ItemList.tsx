import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import type { ReactNode } from "react";
import { addItem, removeItem } from "../api/job";
import type { ItemView } from "../api/types";
import { Button } from "./Button";
import { Field } from "./Field";
import { Trouble } from "./Trouble";
import { useAct } from "./useAct";

type Props = {
  title: string;
  items: readonly ItemView[];
  /** The list of the job that new ones go into. */
  where: string;
  add: string;
  empty: string;
  /** More about one item, below its fields. */
  extra?: (item: ItemView) => ReactNode;
  /** What can be done to one item without opening it. */
  beside?: (item: ItemView) => ReactNode;
};

/** One of the job's lists: each item folds open to its fields. */
export function ItemList({ title, items, where, add, empty, extra, beside }: Props) {
  const { act, trouble, busy } = useAct();
  return (
    <section aria-label={title} className="mt-4">
      <div className="flex items-center gap-3 border-b border-ink">
        <h3 className="flex-1 text-lg">{title}</h3>
        <Button tone="quiet" busy={busy} onClick={() => void act(addItem(where))}>
          {add}
        </Button>
      </div>
      {items.length === 0 && <p className="py-2 text-quiet">{empty}</p>}
      <ul>
        {items.map((item) => (
          <Item
            key={item.key}
            item={item}
            drop={() => void act(removeItem(where, item.key))}
            beside={beside?.(item)}
          >
            {extra?.(item)}
          </Item>
        ))}
      </ul>
      <Trouble words={trouble} />
    </section>
  );
}

type ItemProps = { item: ItemView; drop: () => void; beside?: ReactNode; children?: ReactNode };

/** One item: its name and note, folding open to its fields. */
export function Item({ item, drop, beside, children }: ItemProps) {
  return (
    <Disclosure as="li" className="border-b border-rule" data-item={item.key}>
      <div className="flex items-center gap-4">
        <DisclosureButton className="flex min-h-11 min-w-0 flex-1 cursor-pointer items-center gap-3 text-left hover:bg-sheet">
          {({ open }) => (
            <>
              <svg viewBox="0 0 10 10" className="size-2.5 shrink-0" aria-hidden="true">
                <path
                  d={open ? "M1 3l4 4 4-4" : "M3 1l4 4-4 4"}
                  className="stroke-ink"
                  strokeWidth="1.5"
                  fill="none"
                />
              </svg>
              <span className="flex min-w-0 flex-1 flex-col sm:flex-row sm:items-center sm:gap-3">
                <span className="min-w-0 [overflow-wrap:anywhere] sm:flex-1">{item.name}</span>
                <span className="text-sm text-quiet sm:max-w-2/3">{item.note}</span>
              </span>
            </>
          )}
        </DisclosureButton>
        {beside}
      </div>
      <DisclosurePanel className="pb-3">
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          {item.fields.map((field) => (
            <Field key={field.path} field={field} />
          ))}
        </div>
        {children}
        <Button tone="quiet" onClick={drop}>
          Take “{item.name}” out
        </Button>
      </DisclosurePanel>
    </Disclosure>
  );
}
