import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import type { LiveOut, PlanOut } from "../api/client";
import { send } from "../lib/outbox";
import { page } from "../test/page";
import { server } from "../test/server";
import { type Asked, TouchDialog } from "./TouchDialog";

vi.mock("../lib/outbox", async (real) => ({ ...(await real()), send: vi.fn(() => new Promise(() => undefined)) }));

const plan = { shut: [], isolate_valves: ["tool"], isolate_where: "the tool", isolate_inside: "the system", valves: { tool: "the tool" }, sections: [] } as unknown as PlanOut;
const live = { pump_on: true } as LiveOut;

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.mocked(send).mockClear();
});

const AIR = { severity: "stop", words: "Air goes in", why: "" };

it.each<[string, Asked, unknown[], string]>([
  ["a valve", { valve: "tool" }, [], "Isolate"],
  ["a valve that should not be turned", { valve: "tool" }, [AIR], "Isolate all the same"],
  ["a step of a list", { kind: "change-oil", words: "Change the oil" }, [], "Done"],
  ["a step that should not be made", { kind: "change-oil", words: "Change the oil" }, [AIR], "Done anyway"],
])("logs %s once, however often it is pressed before the answer", async (_, asked, consequences, label) => {
  server(() => ({ body: { stop: consequences.length > 0, consequences } }));
  render(<TouchDialog asked={asked} onClose={() => undefined} jobKey="quay" plan={plan} live={live} shut={[]} />, { wrapper: page().wrapper });
  const button = await screen.findByRole("button", { name: label });
  await vi.waitFor(() => expect((button as HTMLButtonElement).disabled).toBe(false));
  for (let n = 0; n < 4; n++) {
    fireEvent.click(button);
    await new Promise((done) => setTimeout(done, 5));
  }
  expect(send).toHaveBeenCalledTimes(1);
});
