import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Frame } from "./types";

const AGAIN_MS = 5000;

export type LinkWord = "asking" | "linked" | "lost";

/**
 * Hears of every new version of a job while a screen shows it, whoever made it, and has the
 * screen fetched anew. Says whether the server answers.
 */
export function useLive(job_id: string): LinkWord {
  const queries = useQueryClient();
  const [link, setLink] = useState<LinkWord>("asking");
  useEffect(() => {
    if (typeof EventSource === "undefined" || !job_id) return;
    let source: EventSource;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = () => {
      source = new EventSource(`/api/jobs/${encodeURIComponent(job_id)}/live`);
      source.addEventListener("version", (event) => {
        setLink("linked");
        const shown = queries.getQueryData<Frame>(["frame", job_id]);
        if (shown && shown.version >= Number(event.data)) return;
        void queries.invalidateQueries({ queryKey: ["frame", job_id] });
        void queries.invalidateQueries({ queryKey: ["job", job_id] });
      });
      source.addEventListener("error", () => {
        if (source.readyState !== EventSource.CLOSED) {
          setLink("lost");
          return;
        }
        // It was refused: too many look at once, or this phone is let in no more, which the
        // next read tells.
        setLink("asking");
        void queries.invalidateQueries({ queryKey: ["frame", job_id] });
        timer = setTimeout(ask, AGAIN_MS);
      });
    };
    ask();
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [job_id, queries]);
  return link;
}
