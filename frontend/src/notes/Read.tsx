import { useState } from "react";
import { useSearchParams } from "react-router";

import type { NotesPages } from "../api/client";
import { useUnits } from "../lib/units";
import { TextField } from "../ui/Field";
import { Cautions, Sheet } from "../ui/Sheet";
import { useNotePage } from "./ask";
import { Relation } from "./Relation";

/** The trade's words. */
export function Glossary() {
  const pages = useNotePage<NotesPages>("pages");
  const [look, setLook] = useState("");
  const [params] = useSearchParams();
  const asked = params.get("word");
  const all = pages.data?.glossary ?? [];
  const matching = all.filter((e) => `${e.term} ${e.also ?? ""} ${e.means}`.toLowerCase().includes(look.trim().toLowerCase()));
  // The word that somebody came for stands first.
  const found = [...matching.filter((e) => e.key === asked), ...matching.filter((e) => e.key !== asked)];
  return (
    <Sheet title="Glossary">
      <TextField label="Look for" value={look} onChange={setLook} />
      <dl className="mt-3 grid gap-x-8 md:grid-cols-2" aria-live="polite">
        {found.map((e) => (
          <div key={e.key} className={`border-b border-rule py-2 ${e.key === asked ? "border-l-4 border-l-measure bg-green-wash pl-3" : ""}`}>
            <dt className="casual text-lead font-extrabold">
              {e.term} {e.also && <span className="text-base font-normal text-soft">({e.also})</span>}
            </dt>
            <dd>
              {e.means} {e.source && <Relation relation={e.source} />}
            </dd>
          </div>
        ))}
      </dl>
      {pages.data && found.length === 0 && <p className="mt-2 text-soft">No such word here.</p>}
    </Sheet>
  );
}

/** The schools side by side: how deep, how long, what each lets stand. */
export function SchoolsNote() {
  const pages = useNotePage<NotesPages>("pages");
  const u = useUnits();
  return (
    <Sheet title="Standards compared">
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Standards compared">
        <table className="w-full min-w-[720px] border-collapse text-left">
          <thead>
            <tr className="border-b-2 border-ink">
              <th className="py-1 pr-3">Standard</th>
              <th className="py-1 pr-3 text-right">pull to</th>
              <th className="py-1 pr-3 text-right">hold</th>
              <th className="py-1 pr-3 text-right">stay under</th>
              <th className="py-1 pr-3">and</th>
              <th className="py-1">lets stand, or cannot see</th>
            </tr>
          </thead>
          <tbody>
            {(pages.data?.schools ?? []).map((s) => (
              <tr key={s.key} className="border-b border-rule align-top">
                <th className="py-2 pr-3">{s.name}</th>
                <td className="figure py-2 pr-3 text-right whitespace-nowrap">{u.say("pressure", s.target_pa)}</td>
                <td className="figure py-2 pr-3 text-right whitespace-nowrap">{s.minutes} min</td>
                <td className="figure py-2 pr-3 text-right whitespace-nowrap">{u.say("pressure", s.limit_pa)}</td>
                <td className="py-2 pr-3">
                  {s.breaks > 0 ? `${s.breaks} nitrogen breaks` : s.flat_rate !== null && s.flat_rate !== undefined ? `flat, under ${u.rate(s.flat_rate, false)}` : "—"}
                </td>
                <td className="py-2">{s.leaves}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-soft">Every figure can be changed on a job's sheet. The manufacturer's own and local code come first.</p>
    </Sheet>
  );
}

export function CautionsNote() {
  const pages = useNotePage<NotesPages>("pages");
  return <Cautions words={pages.data?.cautions ?? []} />;
}
