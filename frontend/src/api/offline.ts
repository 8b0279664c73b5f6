import { cameOverNetwork } from "./phones";

/**
 * Has the built pages kept on a phone, so that they open without a link. Browsers allow it over
 * an encrypted way that they trust; elsewhere a page that is open stays open, and no more.
 */
export function keepPages() {
  if (!import.meta.env.PROD || !cameOverNetwork() || !("serviceWorker" in navigator)) return;
  // Refused for a certificate that the browser does not trust: then it is as without one.
  navigator.serviceWorker.register("/offline.js").catch(() => undefined);
}
