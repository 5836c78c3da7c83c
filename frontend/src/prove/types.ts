import type { GateOut, ProveOut } from "../api/client";
import type { StageProps } from "../stages/types";

export type ProveDoc = NonNullable<StageProps["job"]["prove"]>;
export type GateDoc = NonNullable<ProveDoc["gates"]>[string];

/** What the form of a gate is given. */
export interface GateProps extends StageProps {
  gate: GateOut;
  proof: ProveOut;
  prove: ProveDoc;
  set: (change: Partial<ProveDoc>) => void;
}

export const gateOf = (prove: ProveDoc, key: string): GateDoc => prove.gates?.[key] ?? { state: "open", note: "", items: [] };
