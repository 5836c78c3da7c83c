import type { Job } from "../api/client";

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

const STORE = "rough-draw-new-job";
export const BLANK: Answers = { customer: "", site: "", unit: "", system: "cooler", refrigerant: "", condition: "open-hours" };

export function keptAnswers(): Answers {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(STORE) ?? "{}");
    const kept = Object.entries(BLANK).map(([k, v]) => {
      const was = (found as Record<string, unknown> | null)?.[k];
      return [k, typeof was === "string" ? was : v];
    });
    return Object.fromEntries(kept) as unknown as Answers;
  } catch {
    return { ...BLANK };
  }
}

export function keepAnswers(answers: Answers | null): void {
  try {
    if (answers === null) localStorage.removeItem(STORE);
    else localStorage.setItem(STORE, JSON.stringify(answers));
  } catch {
    // A full store: they stand in the page.
  }
}

/** The answers as the server asks for them. */
export const asked = (a: Answers) => ({
  ...(a.system.startsWith("own-") ? { own: Number(a.system.slice(4)) } : { template: a.system }),
  refrigerant: a.refrigerant,
  condition: a.condition,
});
