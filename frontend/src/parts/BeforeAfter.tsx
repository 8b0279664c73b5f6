import type { WhatIfRow } from "../api/types";
import { usePick } from "./units";
import { Why } from "./Why";

/** Quantities before and after a change, and the difference in words. */
export function BeforeAfter({ rows }: { rows: readonly WhatIfRow[] }) {
  const pick = usePick();
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-sm text-quiet">
          <th scope="col" className="font-normal">
            <span className="sr-only">quantity</span>
          </th>
          <th scope="col" className="font-normal">
            as it is
          </th>
          <th scope="col" className="font-normal">
            what-if
          </th>
          <th scope="col" className="font-normal">
            change
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.key} data-row={row.key} className="border-t border-rule align-baseline">
            <th scope="row" className="pr-2 text-left font-normal leading-tight">
              {row.label}
            </th>
            <td className="whitespace-nowrap pr-2 text-quiet">{pick(row.before)}</td>
            <td className="whitespace-nowrap pr-2">
              <Why figure={row.after} />
            </td>
            <td className="num whitespace-nowrap">
              {row.better && `${pick(row.change)} ${row.better}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
