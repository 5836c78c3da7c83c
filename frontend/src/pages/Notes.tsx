import { lazy, Suspense, type ReactNode } from "react";
import { NavLink, useParams } from "react-router";

import { Hoses } from "../notes/Hoses";
import { Pressure } from "../notes/Pressure";
import { CautionsNote, Glossary, SchoolsNote } from "../notes/Read";
import { Altitude, CordNote, Leak, Lines, Nitrogen } from "../notes/Small";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

const Sources = lazy(async () => ({ default: (await import("../notes/Sources")).Sources }));

const NOTES: { key: string; label: string; body: ReactNode }[] = [
  { key: "pressure", label: "Pressure", body: <Pressure /> },
  { key: "hoses", label: "Hoses", body: <Hoses /> },
  { key: "leak", label: "Leak rate", body: <Leak /> },
  { key: "nitrogen", label: "Nitrogen", body: <Nitrogen /> },
  { key: "altitude", label: "Altitude, dial", body: <Altitude /> },
  { key: "cord", label: "Cord", body: <CordNote /> },
  { key: "lines", label: "Line volume", body: <Lines /> },
  { key: "schools", label: "Standards", body: <SchoolsNote /> },
  { key: "cautions", label: "Cautions", body: <CautionsNote /> },
  { key: "words", label: "Glossary", body: <Glossary /> },
  { key: "sources", label: "Sources", body: <Sources /> },
];

/** Notes: what one looks up, and small answers that need no job. */
export function Notes() {
  useTitle("Notes");
  const key = useParams().note ?? "pressure";
  const found = NOTES.find((n) => n.key === key) ?? NOTES[0]!;
  return (
    <div className="grid gap-3">
      <header>
        <h1 className="text-title">Notes</h1>
        <p className="text-soft">Small answers that need no job, and the words of the trade.</p>
      </header>
      <nav aria-label="Notes" className="flex gap-2 overflow-x-auto pb-1 md:flex-wrap">
        {NOTES.map((n) => (
          <NavLink
            key={n.key}
            to={`/notes/${n.key}`}
            aria-current={n.key === found.key ? "page" : undefined}
            className={`casual inline-flex min-h-12 flex-none items-center rounded-[5px] border-2 px-3 font-bold ${n.key === found.key ? "border-ink bg-ink text-on-ink" : "border-strong bg-sheet hover:border-ink"}`}
          >
            {n.label}
          </NavLink>
        ))}
      </nav>
      <Suspense fallback={<Waits>Opening…</Waits>}>{found.body}</Suspense>
    </div>
  );
}
