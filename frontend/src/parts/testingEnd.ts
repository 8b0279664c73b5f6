import { cleanup } from "@testing-library/react";
import { afterEach, vi } from "vitest";

// Files share one page, which saves each its own: nothing of a test is left to the next.
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
  localStorage.clear();
  sessionStorage.clear();
  document.body.replaceChildren();
});
