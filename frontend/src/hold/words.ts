/** How each verdict looks: its tone, told by a shape as well. Words come from the server. */

export type Tone = "pass" | "caution" | "stop" | "plain";

const TONES: Record<string, Tone> = {
  "tight-and-dry": "pass",
  creeping: "caution",
  shallow: "caution",
  leak: "stop",
  moisture: "caution",
  "leak-and-moisture": "stop",
  refrigerant: "caution",
  vapour: "caution",
  hose: "caution",
  unverified: "caution",
};

export const toneOf = (verdict: string): Tone => TONES[verdict] ?? "plain";

export const BORDER: Record<Tone, string> = { pass: "border-green", caution: "border-ochre", stop: "border-stop", plain: "border-ink" };
export const INK: Record<Tone, string> = { pass: "text-green", caution: "text-ochre", stop: "text-stop", plain: "text-ink" };

const SHAPES: Record<string, string> = { "tight-and-dry": "✓", leak: "↗", "leak-and-moisture": "↗", "not-settled": "…", invalid: "×", unverified: "?" };
export const shapeOf = (verdict: string): string => SHAPES[verdict] ?? "≈";


/** A probability beside its words: 97 %, over 99 %. */
export const sure = (p: number): string => (p > 0.99 ? "over 99 %" : `${Math.floor(p * 100)} %`);
