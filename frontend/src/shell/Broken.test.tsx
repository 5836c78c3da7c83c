import { fireEvent, render, screen } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { BrokenPage, Guarded, wasNotFetched } from "./Broken";

const CHUNK = new TypeError("Failed to fetch dynamically imported module: http://127.0.0.1:8040/assets/Rig-a1b2.js");

function Throws({ error }: { error: Error }): never {
  throw error;
}

describe("a page that comes to grief", () => {
  beforeEach(() => void vi.spyOn(console, "error").mockImplementation(() => undefined));
  afterEach(() => vi.restoreAllMocks());

  it.each([CHUNK, new Error("Importing a module script failed."), new Error("Unable to preload CSS for /assets/x.css")])("knows a part that was not fetched: %s", (e) => expect(wasNotFetched(e)).toBe(true));

  it("offers to reload where a part was not fetched, and says nothing of modules", async () => {
    const router = createMemoryRouter([{ errorElement: <BrokenPage />, children: [{ path: "/", lazy: () => Promise.reject(CHUNK) }] }]);
    render(<RouterProvider router={router} />);
    expect(await screen.findByRole("button", { name: "Reload" })).toBeTruthy();
    const said = screen.getByRole("alert").textContent!;
    expect(said).toContain("could not be fetched");
    expect(said).not.toMatch(/module|assets|TypeError|undefined/);
  });

  it("keeps the rest of the page where a part of it fails, and tries again", () => {
    let broken = true;
    const Part = () => (broken ? <Throws error={new Error("Cannot read properties of undefined (reading 'parts')")} /> : <p>The rig</p>);
    const router = createMemoryRouter([
      {
        path: "/",
        element: (
          <>
            <h1>Larkspur</h1>
            <Guarded what="stage">
              <Part />
            </Guarded>
          </>
        ),
      },
    ]);
    render(<RouterProvider router={router} />);
    expect(screen.getByText("Larkspur")).toBeTruthy();
    expect(screen.getByRole("alert").textContent).not.toMatch(/undefined|properties/);
    broken = false;
    fireEvent.click(screen.getByRole("button", { name: "Try it again" }));
    expect(screen.getByText("The rig")).toBeTruthy();
  });
});
