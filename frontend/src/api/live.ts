import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Frame } from "./types";

const AGAIN_MS = 5000;

export type LinkWord = "asking" | "linked" | "lost";

/**
 * Hears of every new version of a job while a screen shows it, whoever made it, and has the
 * screen fetched anew. Says whether the server answers.
 *
 * A browser opens six connections to a server and no more: a page that nobody looks at lets its
 * own go, or the seventh tab, or a page six steps back in the history, would keep this one waiting.
 */
export function useLive(job_id: string): LinkWord {
  const queries = useQueryClient();
  const [link, setLink] = useState<LinkWord>("asking");
  useEffect(() => {
    if (typeof EventSource === "undefined" || !job_id) return;
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = () => {
      const asked = new EventSource(`/api/jobs/${encodeURIComponent(job_id)}/live`);
      source = asked;
      asked.addEventListener("version", (event) => {
        setLink("linked");
        const shown = queries.getQueryData<Frame>(["frame", job_id]);
        if (shown && shown.version >= Number(event.data)) return;
        void queries.invalidateQueries({ queryKey: ["frame", job_id] });
        void queries.invalidateQueries({ queryKey: ["job", job_id] });
      });
      asked.addEventListener("error", () => {
        if (asked.readyState !== EventSource.CLOSED) {
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
    const rest = () => {
      clearTimeout(timer);
      source?.close();
      source = undefined;
    };
    const follow = () => {
      if (document.visibilityState === "hidden") rest();
      else if (!source) ask();
    };
    follow();
    document.addEventListener("visibilitychange", follow);
    window.addEventListener("pagehide", rest);
    window.addEventListener("pageshow", follow);
    return () => {
      document.removeEventListener("visibilitychange", follow);
      window.removeEventListener("pagehide", rest);
      window.removeEventListener("pageshow", follow);
      rest();
    };
  }, [job_id, queries]);
  return link;
}
