import { photoAt } from "../../api/files";
import { setField, useJobId } from "../../api/job";
import type { ItemView } from "../../api/types";
import { useWrite } from "../../api/writes";
import { PhotoPick } from "../../parts/PhotoPick";

type Props = { where: "strip" | "faults"; item: ItemView; photo: string };

/** The picture of what was found; a new one takes its place. */
export function ItemPhoto({ where, item, photo }: Props) {
  const job = useJobId();
  const write = useWrite();
  const took = async (id: string) => {
    const path = `${where}.${item.key}.photo`;
    await write(setField({ path, text: id, system: "metric", instrument: "", at: "" }));
  };
  return (
    <div className="my-2 flex flex-wrap items-center gap-4">
      {photo && (
        <img
          src={photoAt(job, photo)}
          alt={`${item.name}: what was found`}
          className="max-h-40 border border-ink"
        />
      )}
      <PhotoPick words={photo ? "Another photo instead" : "Add a photo"} took={took} />
    </div>
  );
}
