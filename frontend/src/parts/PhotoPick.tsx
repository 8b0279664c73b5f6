import { useState } from "react";
import { wordsFor } from "../api/errors";
import { sendPhoto } from "../api/files";
import { useJobId } from "../api/job";
import { FilePick } from "./FilePick";

type Props = { words: string; took: (id: string) => Promise<void> | void };

/** Asks for a picture, keeps it beside the job, and hands its id on. */
export function PhotoPick({ words, took }: Props) {
  const job = useJobId();
  const [state, setState] = useState("");
  const take = async (file: File) => {
    setState("Sending the photo …");
    try {
      const { id } = await sendPhoto(job, file);
      await took(id);
      setState("");
    } catch (error) {
      setState(wordsFor(error));
    }
  };
  return (
    <>
      <FilePick words={words} accept="image/jpeg,image/png" pick={(file) => void take(file)} />
      {state && <span role="status">{state}</span>}
    </>
  );
}
