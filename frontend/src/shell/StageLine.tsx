import type { ReactNode } from "react";

import { Word } from "../ui/Word";

const LINES: Record<string, ReactNode> = {
  scope: (
    <>
      Describe the system: what is inside, how wet, and the <Word of="standard">standard</Word> it has to pass.
    </>
  ),
  rig: (
    <>
      Choose pump, <Word of="vacuum-hose">hoses</Word> and <Word of="core-tool">core tools</Word>, and see how long they take.
    </>
  ),
  prove: (
    <>
      Check safety, pump, gauge and <Word of="rig-proof">rig</Word> before the pump runs.
    </>
  ),
  draw: (
    <>
      Pull the system down to a <Word of="deep-vacuum">deep vacuum</Word>.
    </>
  ),
  hold: (
    <>
      Read the <Word of="hold-test">hold test</Word>: tight and dry, or why not.
    </>
  ),
  release: (
    <>
      Break the vacuum, charge, <Word of="trim">trim</Word>, and put the cores back.
    </>
  ),
  record: (
    <>
      Sign, <Word of="seal">seal</Word> and hand over.
    </>
  ),
};

/** What a stage is for, in one line, its words leading to the glossary. */
export function StageLine({ stage }: { stage: string }) {
  return <p className="mb-3 text-soft">{LINES[stage]}</p>;
}
