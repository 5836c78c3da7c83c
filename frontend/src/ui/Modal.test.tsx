import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, expect, it } from "vitest";

import { Modal } from "./Modal";

afterEach(cleanup);

function Page({ drawn }: { drawn: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {drawn ? (
        <svg>
          <g role="button" tabIndex={0} aria-label="the valve" onClick={() => setOpen(true)} />
        </svg>
      ) : (
        <button onClick={() => setOpen(true)}>the valve</button>
      )}
      <Modal open={open} onClose={() => setOpen(false)} title="Close it?">
        <button onClick={() => setOpen(false)}>Close it</button>
      </Modal>
    </>
  );
}

it.each([
  ["a button", false],
  ["a piece of a drawing", true],
])("gives the focus back to %s that opened it", async (_, drawn) => {
  render(<Page drawn={drawn} />);
  const valve = screen.getByRole("button", { name: "the valve" });
  valve.focus();
  fireEvent.click(valve);
  fireEvent.click(await screen.findByRole("button", { name: "Close it" }));
  await new Promise((done) => setTimeout(done));
  expect(screen.queryByRole("dialog")).toBeNull();
  expect(document.activeElement).toBe(screen.getByRole("button", { name: "the valve" }));
});
