/** Numbers as somebody writes and types them: thousands and decimals by habit. */

export type Numbers = "point" | "comma" | "space";

const LOCALES: Record<Numbers, string> = { point: "en-US", comma: "de-DE", space: "fr-FR" };
const made = new Map<string, Intl.NumberFormat>();

function format(numbers: Numbers, least: number, most: number, grouped: boolean): Intl.NumberFormat {
  const key = `${numbers} ${least} ${most} ${grouped}`;
  const found = made.get(key) ?? new Intl.NumberFormat(LOCALES[numbers], { minimumFractionDigits: least, maximumFractionDigits: most, useGrouping: grouped });
  made.set(key, found);
  return found;
}

const clean = (text: string): string => (/[1-9]/.test(text) ? text.replace("-", "−") : text.replace("-", ""));

/** With so many places after the decimal sign. */
export const fixed = (value: number, places: number, numbers: Numbers = "point"): string => clean(format(numbers, places, places, true).format(value));

/** With at most so many places, and none that say nothing. */
export const plain = (value: number, places: number, numbers: Numbers = "point"): string => clean(format(numbers, 0, places, true).format(value));

/** With about so many digits: 9.9996 is 10.0; of large numbers every one before the decimal sign. */
export function significant(value: number, digits: number, numbers: Numbers = "point"): string {
  if (value === 0 || !Number.isFinite(value)) return value === 0 ? "0" : "–";
  const size = Math.abs(Number(value.toPrecision(digits)));
  return fixed(value, Math.min(6, Math.max(0, digits - 1 - Math.floor(Math.log10(size)))), numbers);
}

const RAISED = "⁰¹²³⁴⁵⁶⁷⁸⁹";

/** A very small or large figure: 1.2 × 10⁻⁴. */
export function scientific(value: number, numbers: Numbers = "point", digits = 2): string {
  if (value === 0 || !Number.isFinite(value)) return "0";
  const [mantissa, power] = value.toExponential(digits - 1).split("e");
  const raised = String(Math.abs(Number(power))).replace(/\d/g, (d) => RAISED[Number(d)]!);
  return `${fixed(Number(mantissa), digits - 1, numbers)} × 10${Number(power) < 0 ? "⁻" : ""}${raised}`;
}

/** As it stands in a field: all its digits, thousands not set apart. */
export const inField = (value: number, numbers: Numbers = "point"): string => format(numbers, 0, 12, false).format(value);

/** What a typed figure is: `sure` by this person's habit, or `shown` back because another habit would read it otherwise
 * or it is not written by this one. `other` is what it may have been meant as, where it can be two numbers. */
export interface Typed {
  value: number;
  how: "sure" | "shown";
  other?: number;
}

const GROUPED = /^[1-9]\d{0,2}(?:G\d{3})+$/;

/** Read a typed figure; null where it is none. */
export function typed(text: string, numbers: Numbers = "point"): Typed | null {
  const bare = text.trim().replace(/^[−–]/, "-");
  const sign = bare.startsWith("-") ? -1 : 1;
  let digits = bare.replace(/^[-+]/, "");
  // Blanks and apostrophes only ever set thousands apart.
  if (/[\s'’]/.test(digits)) {
    const [whole = "", ...rest] = digits.split(/([.,])/);
    if (!GROUPED.test(whole.replace(/[\s'’]/g, "G"))) return null;
    digits = whole.replace(/[\s'’]/g, "") + rest.join("");
  }
  if (!/^(?=.*\d)[\d.,]+$/.test(digits)) return null;
  const own = numbers === "point" ? "." : ",";
  const other = own === "." ? "," : ".";
  const read = decided(digits, own, other);
  return read && { ...read, value: sign * read.value, ...(read.other === undefined ? {} : { other: sign * read.other }) };
}

function decided(digits: string, own: string, other: string): Typed | null {
  const count = (c: string) => digits.split(c).length - 1;
  const isGrouped = (part: string, c: string) => GROUPED.test(part.replaceAll(c, "G"));
  const as = (decimal: string, group: string): number => Number(digits.replaceAll(group, "").replace(decimal, "."));
  if (count(own) && count(other)) {
    const [decimal, group] = digits.lastIndexOf(own) > digits.lastIndexOf(other) ? [own, other] : [other, own];
    if (count(decimal) > 1 || !isGrouped(digits.slice(0, digits.indexOf(decimal)), group)) return null;
    return { value: as(decimal, group), how: decimal === own ? "sure" : "shown" };
  }
  if (count(own) > 1) return isGrouped(digits, own) ? { value: as(other, own), how: "shown" } : null;
  if (count(own) === 1) return isGrouped(digits, own) ? { value: as(own, other), how: "shown", other: as(other, own) } : { value: as(own, other), how: "sure" };
  if (count(other) === 0) return { value: Number(digits), how: "sure" };
  if (isGrouped(digits, other)) return { value: as(own, other), how: count(other) === 1 ? "shown" : "sure" };
  return count(other) === 1 ? { value: as(other, own), how: "shown" } : null;
}
