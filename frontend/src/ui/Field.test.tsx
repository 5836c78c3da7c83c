import { fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";

import { page } from "../test/page";
import { NumberField } from "./Field";

function Held({ start, told, ...more }: { start: number | null; told: (v: number | null) => void } & Partial<Parameters<typeof NumberField>[0]>) {
  const [value, setValue] = useState(start);
  return (
    <NumberField
      label="Length"
      min={1}
      max={60}
      value={value}
      onChange={(v) => {
        told(v);
        setValue(v);
      }}
      {...more}
    />
  );
}

function shown(start: number | null, more: Partial<Parameters<typeof NumberField>[0]> = {}, chosen: Record<string, string> = {}) {
  const told = vi.fn();
  render(<Held start={start} told={told} {...more} />, { wrapper: page(chosen).wrapper });
  const box = screen.getByLabelText<HTMLInputElement>("Length");
  const type = (text: string) => fireEvent.change(box, { target: { value: text } });
  return { told, box, type };
}

describe("a number field", () => {
  it("hands on what lies within its bounds, and shows back what is written by another habit", () => {
    const { told, type } = shown(5, { unit: "m" });
    type("7.5");
    type("12,25");
    expect(told.mock.calls).toEqual([[7.5], [12.25]]);
    expect(screen.getByText("Read as 12.25 m")).toBeTruthy();
  });

  it("keeps what is typed, says what is wrong, and hands on nothing out of bounds", () => {
    const { told, box, type } = shown(5, { unit: "m" });
    for (const text of ["600", "0.5", "abc", "-", "1e9", "."]) {
      type(text);
      expect(box.value).toBe(text);
      expect(box.getAttribute("aria-invalid")).toBe("true");
    }
    expect(told).not.toHaveBeenCalled();
    expect(screen.getByText("not a number")).toBeTruthy();
    type("600");
    expect(screen.getByText("from 1 to 60 m")).toBeTruthy();
  });

  it("asks for a figure where one is needed, and takes none where it may be empty", () => {
    const needed = shown(5);
    needed.type("");
    expect(needed.told).not.toHaveBeenCalled();
    expect(screen.getByText("a figure is needed")).toBeTruthy();
  });

  it("takes nothing for nothing where it may", () => {
    const { told, type } = shown(5, { optional: true });
    type("");
    expect(told).toHaveBeenCalledWith(null);
  });

  it("shows and takes a person's own unit, and stores the document's", () => {
    const { told, box, type } = shown(3.048, { dim: "length" }, { length: "ft" });
    expect(box.value).toBe("10");
    type("20");
    expect(told.mock.lastCall![0]).toBeCloseTo(6.096, 6);
    expect(box.value).toBe("20");
  });

  it("takes a figure on its bound in any unit", () => {
    const { told, box, type } = shown(3, { dim: "length" }, { length: "ft" });
    type("196.85");
    expect(box.getAttribute("aria-invalid")).toBe("false");
    expect(told.mock.lastCall![0]).toBeLessThanOrEqual(60);
  });

  it("asks which of two numbers is meant before it takes either", () => {
    const { told, type } = shown(5, { unit: "m", max: 9000 });
    type("1.500");
    expect(told).not.toHaveBeenCalled();
    fireEvent.click(screen.getByText("1,500 m"));
    expect(told.mock.calls).toEqual([[1500]]);
    type("1,500");
    expect(told.mock.lastCall).toEqual([1500]);
    expect(screen.getByText("Read as 1,500 m")).toBeTruthy();
  });

  it("does not ask where only one of them can stand there", () => {
    const { told, type } = shown(5, { unit: "kg" });
    type("3.250");
    expect(told.mock.lastCall).toEqual([3.25]);
  });

  it("reads and writes by this person's habit", () => {
    const { told, box, type } = shown(5.5, { unit: "m", max: 9000 }, { numbers: "comma" });
    expect(box.value).toBe("5,5");
    type("1.500");
    expect(told.mock.lastCall).toEqual([1500]);
    type("2,25");
    expect(told.mock.lastCall).toEqual([2.25]);
  });
});
