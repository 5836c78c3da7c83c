import { defineConfig } from "vitest/config";

// Beside the sources: what needs no server. The whole interface is driven in a real browser by the tests in Python.
export default defineConfig({
  test: { environment: "happy-dom", include: ["src/**/*.test.{ts,tsx}"], setupFiles: ["src/test/setup.ts"], restoreMocks: true, unstubGlobals: true },
});
