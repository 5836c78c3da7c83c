import { describe, expect, it } from "vitest";

import { clock, percent, range, span } from "./format";

describe("figures", () => {
  it.each([
    [12, "12 s"],
    [89.4, "89 s"],
    [90, "2 min"],
    [7140, "119 min"],
    [7200, "2 h 00"],
    [7499, "2 h 05"],
  ])("%d s is said as %s", (s, text) => expect(span(s)).toBe(text));

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

  it("writes clock times in two places each", () => expect(clock(new Date(2026, 4, 4, 7, 5, 9).getTime() / 1000, true)).toBe("07:05:09"));
});
