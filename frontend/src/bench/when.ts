/** Clock times of this place for date fields, and back to epoch seconds. */

const two = (n: number) => String(n).padStart(2, "0");

export function toLocal(at: number): string {
  const d = new Date(at * 1000);
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}T${two(d.getHours())}:${two(d.getMinutes())}`;
}

export function fromLocal(text: string): number | null {
  const at = new Date(text).getTime();
  return Number.isFinite(at) ? at / 1000 : null;
}
