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
    expect(u.say("length", 3.048)).toBe("10 ft");
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

  it("writes numbers by habit, and small weights, differences and adders in what goes with the rest", () => {
    const u = units({ numbers: "comma", mass: "lb-oz", temperature: "f", capacity: "tons", barometer: "inhg", pressure: "pa" });
    expect(u.say("pressure", 2666.4)).toBe("2.666 Pa"); // two thousand, by the comma's habit;
    expect(u.say("step", 5)).toBe("9 °F");
    expect(u.grams(100)).toBe("3,5 oz");
    expect(u.grams(2000)).toBe("4,4 lb");
    expect(units().grams(0.0123)).toBe("0.01 g");
    expect(units().grams(0.0031)).toBe("< 0.01 g");
    expect(units().grams(2345)).toBe("2.3 kg");
    expect(u.say("capacity", 17.58)).toBe("5 tons");
    expect(u.say("barometer", 1013.25)).toBe("29,92 inHg");
    expect(u.say("adder", 60)).toBe("0,645 oz/ft");
  });

  it("shows tenths of a micron where the gauge gives them", () => {
    expect(units().reading(42.34 * PA, 0.1)).toBe("42.3");
    expect(units().reading(42 * PA, 0.1)).toBe("42.0");
    // Typed off a gauge that gives tenths, on a sheet that does not know it.
    expect(units().reading(42.3 * PA)).toBe("42.3");
    expect(units().reading(4200.3 * PA, 0.1)).toBe("4,200");
    expect(units().reading(42 * PA, 1)).toBe("42");
  });

  it("gives a rate its sign", () => {
    expect(units().rate(0.42)).toBe("+0.42 µ/s");
    expect(units().rate(-12)).toBe("−12 µ/s");
    expect(units().rate(-0.004)).toBe("0.00 µ/s");
    expect(units().rate(0.004)).toBe("0.00 µ/s");
    expect(units({ pressure: "mbar" }).rate(-0.004)).toBe("0 mbar/s");
    expect(units({ pressure: "mbar" }).rate(0.5, false)).toBe("0.00067 mbar/s");
  });
});
