import "fake-indexeddb/auto";

import { cleanup } from "@testing-library/react";
import { IDBFactory } from "fake-indexeddb";
import { afterEach } from "vitest";

import { names, change } from "../lib/kept";

afterEach(async () => {
  cleanup();
  localStorage.clear();
  await Promise.all(names().map((name) => change(name, () => undefined).catch(() => undefined)));
  // What a test imports anew begins on a device that has nothing.
  globalThis.indexedDB = new IDBFactory();
});
