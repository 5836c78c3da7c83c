import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { Button } from "./Button";

afterEach(cleanup);

const passes = () => new Promise((done) => setTimeout(done, 5));

it("takes no second press while what the first set going is under way, and keeps the focus", async () => {
  const ends: (() => void)[] = [];
  const press = vi.fn(() => new Promise<void>((done) => ends.push(done)));
  render(<Button onClick={press}>Put it there</Button>);
  const button = screen.getByRole("button");
  button.focus();
  // In one breath, and again after it was drawn.
  for (let n = 0; n < 3; n++) fireEvent.click(button);
  await passes();
  fireEvent.click(button);
  expect(press).toHaveBeenCalledTimes(1);
  expect(button.getAttribute("aria-busy")).toBe("true");
  expect(document.activeElement).toBe(button);
  ends[0]!();
  await passes();
  expect(button.getAttribute("aria-busy")).toBeNull();
  fireEvent.click(button);
  expect(press).toHaveBeenCalledTimes(2);
});

it("can be pressed again after what it set going came to nothing", async () => {
  const press = vi.fn(() => Promise.reject(new Error("refused")).catch(() => undefined));
  render(<Button onClick={press}>Put it there</Button>);
  for (let n = 0; n < 2; n++) {
    fireEvent.click(screen.getByRole("button"));
    await passes();
  }
  expect(press).toHaveBeenCalledTimes(2);
});

it("takes every press of what is done at once", () => {
  const press = vi.fn();
  render(<Button onClick={press}>One more</Button>);
  for (let n = 0; n < 3; n++) fireEvent.click(screen.getByRole("button"));
  expect(press).toHaveBeenCalledTimes(3);
});
