import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import type { LiveOut, PlanOut } from "../api/client";
import { options } from "../api/options";
import { send } from "../lib/outbox";
import { page } from "../test/page";
import { type Asked, TouchDialog } from "./TouchDialog";

vi.mock("../lib/outbox", async (real) => ({ ...(await real()), send: vi.fn(() => new Promise(() => undefined)) }));

const plan = { shut: [], isolate_valves: ["tool"], isolate_where: "the tool", isolate_inside: "the system", valves: { tool: "the tool" }, sections: [] } as unknown as PlanOut;
const live = { pump_on: true } as LiveOut;

afterEach(() => {
  cleanup();
  vi.mocked(send).mockClear();
});

it.each<[string, Asked, string, { stop: boolean; words: string }, string]>([
  ["a valve", { valve: "tool" }, "isolate", { stop: false, words: "" }, "Isolate"],
  ["a valve that should not be turned", { valve: "tool" }, "isolate", { stop: true, words: "Air goes in" }, "Isolate all the same"],
  ["a step of a list", { kind: "change-oil", words: "Change the oil" }, "change-oil", { stop: false, words: "" }, "Done"],
])("logs %s once, however often it is pressed before the answer", async (_, asked, kind, { stop, words }, label) => {
  const { client, wrapper } = page();
  client.setQueryData(options.foresight("quay", kind).queryKey, { stop, consequences: stop ? [{ severity: "stop", words, why: "" }] : [] } as never);
  render(<TouchDialog asked={asked} onClose={() => undefined} jobKey="quay" plan={plan} live={live} shut={[]} />, { wrapper });
  const button = screen.getByRole("button", { name: label });
  for (let n = 0; n < 4; n++) {
    fireEvent.click(button);
    await new Promise((done) => setTimeout(done, 5));
  }
  expect(send).toHaveBeenCalledTimes(1);
});
