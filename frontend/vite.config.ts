import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: "../src/rugged_shield/web/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
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
