import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Job } from "../api/client";
import { options } from "../api/options";
import type { Editor } from "../api/editor";
import { Segments } from "../ui/Segments";
import { TextField } from "../ui/Field";
import { RunningFields } from "../ui/RunningFields";
import { Sheet } from "../ui/Sheet";

type Doc = NonNullable<NonNullable<Job["release"]>["first"]>;

/** Running readings, the first ones and a later look; superheat and subcooling follow from them. */
export function RunningCard({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const [which, setWhich] = useState<"first" | "later">("first");
  const seen = useQuery(options.running(jobKey, editor.version));
  const doc: Doc = job.release?.[which] ?? ({} as Doc);
  const set = (change: Partial<Doc>) =>
    editor.edit((j) => {
      const old = j.release![which] ?? ({} as Doc);
      const at = old.at ?? Math.round(Date.now() / 1000);
      return { ...j, release: { ...j.release!, [which]: { ...old, at, ...change } } };
    }, "typing");
  const out = seen.data?.[which];
  return (
    <Sheet title="Running readings" fold="release-running">
      <Segments
        label="taken"
        value={which}
        options={[
          { value: "first", label: "after the start" },
          { value: "later", label: "follow-up visit" },
        ]}
        onChange={(v) => setWhich(v)}
      />
      <div className="mt-3 grid grid-cols-2 gap-3">
        <RunningFields value={doc} onChange={set} />
      </div>
      <div aria-live="polite" className="mt-3">
        {out?.fault && <p className="border-l-4 border-stop pl-3">{out.fault}</p>}
        {out?.judged.map((j) => (
          <p key={j.words} className={`border-l-4 pl-3 ${j.case === "within" ? "border-green" : "border-ochre"}`}>
            {j.words}
          </p>
        ))}
      </div>
      <div className="mt-3 grid gap-3">
        <Segments
          label="Condensate"
          value={doc.condensate === true ? "yes" : doc.condensate === false ? "no" : "unseen"}
          options={[
            { value: "yes", label: "runs off" },
            { value: "no", label: "does not" },
            { value: "unseen", label: "not looked at" },
          ]}
          onChange={(v) => set({ condensate: v === "unseen" ? null : v === "yes" })}
        />
        <TextField label="Note" value={doc.note ?? ""} onChange={(v) => set({ note: v })} />
      </div>
    </Sheet>
  );
}
