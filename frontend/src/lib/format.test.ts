import { describe, expect, it } from "vitest";

import { clock, mass, MICRON_PA, microns, percent, range, rate, span } from "./format";

describe("figures", () => {
  it.each([
    [0, "0.0"],
    [4.2, "4.2"],
    [9.96, "10.0"],
    [612, "612"],
    [18_290, "18,290"],
    [123_456, "123,500"],
  ])("%d µ is read as %s", (m, text) => expect(microns(m * MICRON_PA)).toBe(text));

  it.each([
    [12, "12 s"],
    [89.4, "89 s"],
    [90, "2 min"],
    [7140, "119 min"],
    [7200, "2 h 00"],
    [7499, "2 h 05"],
  ])("%d s is said as %s", (s, text) => expect(span(s)).toBe(text));

  it("keeps the sign of a rate, and a true minus", () => {
    expect(rate(0.126)).toBe("+0.13 µ/s");
    expect(rate(-12.4)).toBe("−12 µ/s");
  });

  it("never says none or all of what is neither", () => {
    expect(percent(0.0004)).toBe("under 1 %");
    expect(percent(0.999)).toBe("over 99 %");
    expect(percent(0)).toBe("0 %");
    expect(percent(1)).toBe("100 %");
  });

  it("says an interval once where both ends read alike", () => {
    expect(range({ low: 4.01, high: 4.02 }, (v) => v.toFixed(1))).toBe("4.0");
    expect(range({ low: 4, high: 6 }, (v) => v.toFixed(1))).toBe("4.0 to 6.0");
  });

  it("goes from grams to kilograms", () => expect([0.0123, 12.3, 2345, 2e5].map(mass)).toEqual(["0.012 g", "12 g", "2.3 kg", "over 100 kg"]));

  it("writes clock times in two places each", () => expect(clock(new Date(2026, 4, 4, 7, 5, 9).getTime() / 1000, true)).toBe("07:05:09"));
});
