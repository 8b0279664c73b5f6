import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";

/** Tells the worker that keeps the pages which files there are. */
const files: Plugin = {
  name: "files",
  generateBundle(_, bundle) {
    const worker = bundle["offline.js"];
    if (worker?.type !== "chunk") throw new Error("the worker was not built");
    const all = Object.keys(bundle).filter((name) => !/^(index\.html|offline\.js)$/.test(name));
    worker.code = `const FILES = ${JSON.stringify(all.map((name) => `/${name}`))};\n${worker.code}`;
  },
};

export default defineConfig({
  plugins: [react(), tailwindcss(), files],
  build: {
    outDir: "../src/rugged_shield/web/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rollupOptions: {
      input: { index: "index.html", offline: "worker/offline.ts" },
      // At the root and under one name: from there it is answerable for every page.
      output: {
        entryFileNames: (chunk) =>
          chunk.name === "offline" ? "offline.js" : "assets/[name]-[hash].js",
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8440" } },
  // A slow machine is no fault of a component: no test here waits for a clock.
  test: {
    environment: "happy-dom",
    pool: "threads",
    isolate: false,
    setupFiles: ["src/parts/testingEnd.ts"],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
