import { renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { page, PA } from "../test/page";
import { useUnits, type Dim } from "./units";

const units = (chosen: Record<string, string> = {}) => renderHook(() => useUnits(), { wrapper: page(chosen).wrapper }).result.current;

describe("figures in a person's units", () => {
  it("says a pressure in microns with what a gauge shows", () => {
    const u = units();
    expect([4.26, 612.4, 18_290, 412_345].map((m) => u.say("pressure", m * PA))).toEqual(["4.3 µ", "612 µ", "18,290 µ", "412,300 µ"]);
  });

  it("says the same in mbar, °F, feet, pounds and ounces", () => {
    const u = units({ pressure: "mbar", temperature: "f", length: "ft", mass: "lb-oz" });
    expect(u.say("pressure", 500 * PA)).toBe("0.667 mbar");
    expect(u.say("temperature", 20)).toBe("68 °F");
    expect(u.say("length", 3.048)).toBe("10.0 ft");
    expect(u.say("mass", 1)).toBe("2 lb 3.3 oz");
  });

  it("goes from what is stored to what is shown, and back to the same", () => {
    const u = units({ pressure: "mbar", temperature: "f", length: "ft", mass: "lb-oz" });
    for (const dim of ["pressure", "temperature", "length", "mass"] satisfies Dim[]) for (const v of [-40, 0, 0.02, 7, 12_345.6]) expect(u.stored(dim, u.shown(dim, v))).toBeCloseTo(v, 8);
  });

  it("turns the zero of a scale with an offset", () => {
    expect(units({ temperature: "f" }).shown("temperature", -40)).toBeCloseTo(-40, 9);
    expect(units({ temperature: "f" }).say("temperature", 0)).toBe("32 °F");
  });

  it("gives a rate its sign", () => {
    expect(units().rate(0.42)).toBe("+0.42 µ/s");
    expect(units().rate(-12)).toBe("−12 µ/s");
    expect(units({ pressure: "mbar" }).rate(0.5, false)).toBe("0.00067 mbar/s");
  });
});
