import type { Job } from "../api/client";
import { change, read } from "./kept";

type Condition = NonNullable<NonNullable<Job["scope"]>["condition"]>;

/** What a new job begins with, as far as it has been answered: kept on this device until the job is opened. */
export interface Answers {
  customer: string;
  site: string;
  unit: string;
  /** A template by its key, or one's own as "own-" and its number. */
  system: string;
  /** Empty: the system's usual one. */
  refrigerant: string;
  condition: Condition;
}

const NAME = "new-job";
export const BLANK: Answers = { customer: "", site: "", unit: "", system: "cooler", refrigerant: "", condition: "open-hours" };

export function keptAnswers(): Answers {
  const found = read<Record<string, unknown>>(NAME);
  const kept = Object.entries(BLANK).map(([k, v]) => {
    const was = found?.[k];
    return [k, typeof was === "string" ? was : v];
  });
  return Object.fromEntries(kept) as unknown as Answers;
}

export function keepAnswers(answers: Answers | null): void {
  // Without room on the device they stand in the page.
  change(NAME, () => answers ?? undefined).catch(() => undefined);
}

/** The answers as the server asks for them. */
export const asked = (a: Answers) => ({
  ...(a.system.startsWith("own-") ? { own: Number(a.system.slice(4)) } : { template: a.system }),
  refrigerant: a.refrigerant,
  condition: a.condition,
});
