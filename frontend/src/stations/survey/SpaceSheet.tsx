import { InSpace } from "../../parts/InSpace";

/** Survey's sheet of the plate on its bike in space. */
export function SpaceSheet() {
  return (
    <div className="flex h-full flex-col px-3 py-3 sm:px-5">
      <h2 className="text-xl">The plate in space</h2>
      <InSpace className="h-96 w-full" />
    </div>
  );
}
