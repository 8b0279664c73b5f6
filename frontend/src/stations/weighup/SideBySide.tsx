import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { useState } from "react";
import { useWeighup } from "../../api/weighup";
import { Field } from "../../parts/Field";
import { Findings } from "../../parts/Findings";
import { Failed, Waiting } from "../../parts/States";
import { MapsRun, useMaps } from "./MapsRun";
import { PlateHead } from "./PlateHead";
import { PlatePanel } from "./PlatePanel";
import { Rows } from "./Rows";

/** Weigh-up: gates first, then real quantities in rows, plates in columns, stock first. */
export function SideBySide() {
  const weighup = useWeighup();
  const [open, setOpen] = useState("");
  const [asking, setAsking] = useState(false);
  const maps = useMaps();
  if (weighup.isPending) return <Waiting what="the comparison" />;
  if (weighup.isError) return <Failed error={weighup.error} retry={() => void weighup.refetch()} />;
  const view = weighup.data;
  const chosen = view.columns.find((c) => c.key === open);
  return (
    <div
      className={`grid gap-x-4 px-3 py-2 sm:px-5 lg:h-full lg:grid-rows-[minmax(0,1fr)] ${chosen ? "lg:grid-cols-[minmax(0,1fr)_22rem]" : ""}`}
    >
      <div className="relative min-h-0 min-w-0 overflow-auto" data-testid="comparison">
        {view.shared.length > 0 && (
          <section aria-label="The same for every plate" className="mb-2">
            <b>The same for every plate:</b>
            <Findings findings={view.shared} />
          </section>
        )}
        <table className="border-separate border-spacing-0">
          <thead>
            <tr>
              <th
                scope="col"
                className="sticky top-0 left-0 z-30 w-44 min-w-40 border-b border-ink bg-paper pr-2 pb-1 text-left align-top font-normal"
              >
                <Corner maps={maps} fields={view.use} />
              </th>
              {view.columns.map((column) => (
                <PlateHead
                  key={column.key}
                  column={column}
                  open={setOpen}
                  asked={(key) => {
                    setOpen(key);
                    setAsking(true);
                  }}
                  many={view.columns.length > 5}
                  free={!view.columns.some((c) => c.picked)}
                />
              ))}
            </tr>
          </thead>
          <Rows
            rows={view.rows}
            struck={maps.run?.rows ?? []}
            struckPlates={maps.run?.plates ?? []}
            columns={view.columns}
            open={setOpen}
          />
        </table>
      </div>
      {chosen && (
        <PlatePanel
          column={chosen}
          struck={maps.run?.found?.[chosen.key] ?? []}
          close={() => {
            setOpen("");
            setAsking(false);
          }}
          asking={asking}
          reason={chosen.picked ? view.pick_reason : null}
        />
      )}
    </div>
  );
}

type Fields = readonly Parameters<typeof Field>[0]["field"][];

/** Over the names of the rows: striking every plate, and how this rider rides. */
function Corner({ maps, fields }: { maps: ReturnType<typeof useMaps>; fields: Fields }) {
  return (
    // As wide as its column, so that what a run is doing does not push the plates about.
    <div className="w-42">
      <span className="num block text-lg">Against stock</span>
      <RidingAndLimits fields={fields} />
      <MapsRun maps={maps} />
    </div>
  );
}

/** How this rider rides, and the limits that gates look at. */
function RidingAndLimits({ fields }: { fields: readonly Parameters<typeof Field>[0]["field"][] }) {
  return (
    <Disclosure as="div" className="ml-auto">
      <DisclosureButton className="min-h-11 cursor-pointer text-act underline underline-offset-4">
        Riding and limits
      </DisclosureButton>
      <DisclosurePanel className="absolute left-0 z-40 grid w-[min(40rem,92vw)] grid-cols-2 gap-3 border border-ink bg-sheet p-4 sm:grid-cols-3">
        {fields.map((field) => (
          <Field key={field.path} field={field} />
        ))}
      </DisclosurePanel>
    </Disclosure>
  );
}
