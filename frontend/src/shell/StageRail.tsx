import { Link } from "react-router";

import type { StageState } from "../api/client";

export const STAGE_NAMES: Record<string, string> = {
  scope: "Scope",
  rig: "Rig",
  prove: "Prove",
  draw: "Draw",
  hold: "Hold",
  release: "Release",
  record: "Record",
};

/** The seven stages as one pipe with seven joints: filled when done, larger and in measuring ink where you are. */
export function StageRail({ jobKey, stages, now }: { jobKey: string; stages: StageState[]; now: string }) {
  const list = stages.length ? stages : Object.keys(STAGE_NAMES).map((key) => ({ key, done: false, missing: "" }));
  const done = list.map((s) => s.done);
  return (
    <nav aria-label="Stages" className="relative">
      <ol className="flex list-none p-0">
        {list.map((s, i) => {
          const here = s.key === now;
          const piped = s.done && (done[i + 1] || list[i + 1]?.key === now);
          return (
            <li key={s.key} className="relative min-w-0 flex-auto">
              {i > 0 && <span aria-hidden className={`absolute top-[13px] right-1/2 left-0 h-[3px] ${done[i - 1] && (s.done || here) ? "bg-ink" : "bg-strong"}`} />}
              {i < list.length - 1 && <span aria-hidden className={`absolute top-[13px] right-0 left-1/2 h-[3px] ${piped ? "bg-ink" : "bg-strong"}`} />}
              <Link
                to={`/jobs/${jobKey}/${s.key}`}
                aria-current={here ? "step" : undefined}
                title={s.done ? "done" : s.missing}
                className="relative flex min-h-12 flex-col items-center pt-[3px]"
              >
                <span
                  aria-hidden
                  className={`grid place-items-center rounded-full ${
                    here ? "size-[23px] bg-measure" : s.done ? "my-[3px] size-[17px] bg-ink" : "my-[3px] size-[17px] border-[3px] border-strong bg-sheet"
                  }`}
                >
                  {here && <span className="size-[7px] rounded-full bg-sheet" />}
                </span>
                <span className={`truncate text-note md:text-base ${here ? "font-bold" : "text-soft"} ${here || s.done ? "mt-0" : ""}`}>
                  {STAGE_NAMES[s.key]}
                  <span className="sr-only">{s.done ? ", done" : s.missing ? `, missing: ${s.missing}` : ""}</span>
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
