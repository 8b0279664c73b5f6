import {
  type DehydratedState,
  dehydrate,
  hydrate,
  type Query,
  type QueryClient,
} from "@tanstack/react-query";
import { cameOverNetwork } from "./phones";

const PLACE = "last seen";
/** As long as a phone is let in, and no longer. */
const GOOD_MS = 12 * 3600 * 1000;
const REST_MS = 500;
/** Views of another build may be of another form: they are not shown. */
const BUILD = import.meta.url;

type LastSeen = { build: string; made_ms: number; state: DehydratedState };

const isKept = (query: Query) =>
  query.state.status === "success" && ["who", "frame", "job"].includes(String(query.queryKey[0]));

/** What this phone saw last is forgotten: it is let in no more, or for another job. */
export function forgetSeen() {
  localStorage.removeItem(PLACE);
}

function remembered(): DehydratedState | null {
  const text = localStorage.getItem(PLACE);
  if (!text) return null;
  const seen = JSON.parse(text) as LastSeen;
  const good = seen.build === BUILD && Math.abs(Date.now() - seen.made_ms) < GOOD_MS;
  return good ? seen.state : null;
}

/**
 * On a phone: what its job looked like last is shown again when the page is opened without a
 * link. On the computer nothing is kept, for the server is always there.
 */
export function rememberSeen(queries: QueryClient) {
  if (!cameOverNetwork()) return;
  const seen = remembered();
  if (seen) hydrate(queries, seen);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    const who = queries.getQueryData<{ job: string }>(["who"]);
    if (!who?.job) return;
    const state = dehydrate(queries, { shouldDehydrateQuery: isKept });
    const now: LastSeen = { build: BUILD, made_ms: Date.now(), state };
    try {
      localStorage.setItem(PLACE, JSON.stringify(now));
    } catch {
      // No room: entries that wait come first, and without a link the page says that it has none.
      forgetSeen();
    }
  };
  queries.getQueryCache().subscribe((event) => {
    if (event.type !== "updated" || event.action.type !== "success") return;
    clearTimeout(timer);
    timer = setTimeout(keep, REST_MS);
  });
}
