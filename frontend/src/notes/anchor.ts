/** The name of a relation as an anchor: "saturation, ice" is saturation-ice. */
export const anchor = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "");
