/** Below this, µ, a gauge's zero is off: it takes no axis down with it. */
const LEAST = 1;

/** The bottom of a logarithmic axis, µ: the usual one, or as many decades lower as the lowest reading wants. */
export function floorOf(readings: (number | null)[][], usual: number, micron: (pa: number) => number): number {
  let lowest = usual;
  for (const series of readings)
    for (const pa of series) {
      if (pa === null) continue;
      const v = micron(pa);
      if (v >= LEAST && v < lowest) lowest = v;
    }
  let floor = usual;
  while (lowest < floor) floor /= 10;
  return floor;
}
