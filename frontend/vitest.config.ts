import { defineConfig } from "vitest/config";

// Beside the sources: what needs no server. The whole interface is driven in a real browser by the tests in Python.
export default defineConfig({
  test: {
    environment: "happy-dom",
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/test/setup.ts"],
    restoreMocks: true,
    unstubGlobals: true,
    // A world of its own for each file takes five times as long as the tests do; what they leave is cleared by the setup.
    pool: "threads",
    isolate: false,
  },
});
