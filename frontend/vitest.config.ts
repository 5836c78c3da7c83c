import { readdirSync, readFileSync } from "node:fs";

import { defineConfig } from "vitest/config";

const ALL = readdirSync("src", { recursive: true, encoding: "utf8" })
  .filter((name) => /\.test\.tsx?$/.test(name))
  .map((name) => `src/${name}`);
// These load modules anew, as pages opened one after the other: what such a page set going (a line that is tried again)
// goes on beside the next test, and must end with its file. One that puts something in a module's place needs a world in
// which nobody has loaded that module yet.
const PAGES = ALL.filter((name) => /\bvi\.(resetModules|mock|doMock|hoisted)\b/.test(readFileSync(name, "utf8")));

// Beside the sources: what needs no server. The whole interface is driven in a real browser by the tests in Python.
export default defineConfig({
  test: {
    environment: "happy-dom",
    setupFiles: ["src/test/setup.ts"],
    restoreMocks: true,
    unstubGlobals: true,
    pool: "threads",
    projects: [
      // A world of its own for each file takes five times as long as the tests do; what they leave is cleared by the setup.
      { extends: true, test: { name: "together", include: ALL.filter((name) => !PAGES.includes(name)), isolate: false } },
      { extends: true, test: { name: "pages", include: PAGES, isolate: true } },
    ],
  },
});
