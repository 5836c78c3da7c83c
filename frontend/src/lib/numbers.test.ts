import { describe, expect, it } from "vitest";

import { fixed, inField, plain, scientific, significant, typed, type Numbers } from "./numbers";

const ALL: Numbers[] = ["point", "comma", "space"];

/** Numbers of every size, by a generator that is the same each time. */
function some(count: number): number[] {
  let seed = 7;
  const next = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  return Array.from({ length: count }, () => {
    const places = Math.floor(next() * 5);
    return Number((next() * 10 ** (next() * 8 - 1) * (next() < 0.2 ? -1 : 1)).toFixed(places));
  });
}

describe("a typed figure", () => {
  it.each<[string, Numbers, number, string]>([
    ["1,500", "point", 1500, "shown"],
    ["1.500", "comma", 1500, "shown"],
    ["1 500", "space", 1500, "sure"],
    ["1.500", "point", 1.5, "shown"],
    ["1,500", "comma", 1.5, "shown"],
    ["1,5", "point", 1.5, "shown"],
    ["1.5", "comma", 1.5, "shown"],
    ["1,500.25", "point", 1500.25, "sure"],
    ["1.500,25", "point", 1500.25, "shown"],
    ["1.500.000", "point", 1500000, "shown"],
    ["1,500,000", "point", 1500000, "sure"],
    ["0,500", "point", 0.5, "shown"],
    ["0.500", "point", 0.5, "sure"],
    ["42.3", "point", 42.3, "sure"],
    ["−12,5", "comma", -12.5, "sure"],
    ["1'500", "comma", 1500, "sure"],
    [".5", "point", 0.5, "sure"],
  ])("%s by the %s habit", (text, numbers, value, how) => {
    expect(typed(text, numbers)).toMatchObject({ value, how });
  });

  it("says the other number that it may be", () => {
    expect(typed("1.500", "point")?.other).toBe(1500);
    expect(typed("-1,500", "comma")?.other).toBe(-1500);
    for (const text of ["1,500", "1.5", "0.500", "1,5", "1500"]) expect(typed(text, "point")?.other).toBeUndefined();
  });

  it.each(["", "abc", "1,50,000", "1 50", "1,2,3", "1.2.3", "--5", "5 µ", "1e5", ".", "1..5"])("“%s” is none", (text) => {
    expect(typed(text, "point")).toBeNull();
  });

  it("reads what is written by its own habit as it was, and takes nothing otherwise in silence", () => {
    const wrong: string[] = [];
    for (const n of some(2000)) {
      for (const mine of ALL) {
        for (const text of [plain(n, 6, mine), inField(n, mine)]) {
          const back = typed(text, mine);
          if (!back || Math.abs(back.value - n) > 1e-6) wrong.push(`${text} by its own ${mine}`);
          for (const yours of ALL) {
            const found = typed(text, yours);
            // Another habit may read it otherwise, but says so.
            if (found && Math.abs(found.value - n) > 1e-6 && found.how === "sure") wrong.push(`${text} by ${yours}`);
          }
        }
      }
    }
    expect(wrong).toEqual([]);
  });
});

it("writes by habit", () => {
  expect(ALL.map((n) => fixed(1234.5, 1, n).replace(/\s/g, "_"))).toEqual(["1,234.5", "1.234,5", "1_234,5"]);
  expect(significant(9.9996, 3)).toBe("10.0");
  expect(fixed(-0.04, 1)).toBe("0.0");
  expect(fixed(-4, 0)).toBe("−4");
  expect(scientific(1.23e-4)).toBe("1.2 × 10⁻⁴");
});
