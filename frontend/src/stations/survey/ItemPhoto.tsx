import { useState } from "react";
import { wordsFor } from "../../api/errors";
import { setField, useJobId } from "../../api/job";
import { sendPhoto } from "../../api/survey";
import type { ItemView } from "../../api/types";
import { useWrite } from "../../api/writes";
import { FilePick } from "../../parts/FilePick";

type Props = { where: "strip" | "faults"; item: ItemView; photo: string };

/** The picture of what was found; a new one takes its place. */
export function ItemPhoto({ where, item, photo }: Props) {
  const job = useJobId();
  const write = useWrite();
  const [state, setState] = useState("");
  const take = async (file: File) => {
    setState("Sending the photo …");
    try {
      const { id } = await sendPhoto(job, file);
      await write(
        setField({
          path: `${where}.${item.key}.photo`,
          text: id,
          system: "metric",
          instrument: "",
          at: "",
        }),
      );
      setState("");
    } catch (error) {
      setState(wordsFor(error));
    }
  };
  return (
    <div className="my-2 flex flex-wrap items-center gap-4">
      {photo && (
        <img
          src={`/api/jobs/${job}/strip/photos/${photo}`}
          alt={`${item.name}: what was found`}
          className="max-h-40 border border-ink"
        />
      )}
      <FilePick
        words={photo ? "Another photo instead" : "Add a photo"}
        accept="image/jpeg,image/png"
        pick={(file) => void take(file)}
      />
      {state && <span role="status">{state}</span>}
    </div>
  );
}
