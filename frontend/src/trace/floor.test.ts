import { expect, it } from "vitest";

import { floorOf } from "./floor";

const same = (v: number) => v;

it.each([
  [[[760_000, 900, 100]], 100, 100],
  [[[760_000, 900, 99]], 100, 10],
  [[[900], [43, null]], 100, 10],
  [[[900, 4]], 100, 1],
  [[[30]], 50, 5],
  // What no gauge says of a vacuum: nothing, a zero that is off, over range.
  [[[900, 0, -20, 0.3, null]], 100, 100],
  [[], 100, 100],
  [[[null]], 10, 10],
])("of %j the axis that begins at %d begins at %d", (readings, usual, floor) => expect(floorOf(readings, usual, same)).toBeCloseTo(floor, 9));
