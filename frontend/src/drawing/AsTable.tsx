import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";

type Props = {
  /** What the table repeats, for its caption. */
  caption: string;
  head: readonly string[];
  rows: readonly (readonly string[])[];
};

/** The numbers of a drawing as a table, for whoever reads rather than looks. */
export function AsTable({ caption, head, rows }: Props) {
  return (
    <Disclosure as="div" className="my-1">
      <DisclosureButton className="min-h-11 cursor-pointer text-sm text-act sm:min-h-6 underline underline-offset-4">
        The same in a table
      </DisclosureButton>
      <DisclosurePanel className="max-w-full overflow-x-auto">
        <table className="mt-1 w-full text-sm tabular-nums">
          <caption className="sr-only">{caption}</caption>
          <thead>
            <tr className="border-b border-ink">
              {head.map((words) => (
                <th key={words} scope="col" className="pr-3 text-left font-semibold">
                  {words}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.join("|")} className="border-b border-rule">
                {row.map((cell, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its column
                  <td key={i} className="pr-3">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </DisclosurePanel>
    </Disclosure>
  );
}
