import { useQueryClient } from "@tanstack/react-query";
import { Plus, Search, Upload } from "lucide-react";
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { JobOut, YardRow } from "../api/client";
import { refresh } from "../api/options";
import { commands } from "../api/commands";
import { ApiError } from "../api/client";
import { useYard } from "../api/queries";
import { clock } from "../lib/format";
import { useUnits } from "../lib/units";
import { typing } from "../shell/keys";
import { Ahead, Pumps } from "../shell/Pumps";
import { STAGE_NAMES } from "../shell/StageRail";
import { Button } from "../ui/Button";
import { Fault, Tag } from "../ui/Sheet";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

const Welcome = lazy(async () => ({ default: (await import("../welcome/Welcome")).Welcome }));

/**
 * Two hundred jobs: what is far out of sight is taken for a height and not laid out, and is found by keys and search all
 * the same. The first ones are: a browser lays out what is within some windows' height of what shows, a moment after the
 * rest, and what stands below would be pushed.
 */
const LAID_OUT = 30;

/** All jobs: who needs a hand next, and when. */
export function Yard() {
  useTitle("Yard");
  const { data, isPending, error } = useYard();
  const navigate = useNavigate();
  const client = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState<ApiError | null>(null);
  const [known, setKnown] = useState<File | null>(null);

  const open = (p: Promise<JobOut>) =>
    p.then(
      (j) => {
        refresh(client, ["yard"]);
        void navigate(`/jobs/${j.key}/scope`);
      },
      (e: unknown) => e instanceof ApiError && setFault(e),
    );

  const [look, setLook] = useState("");
  const found = useMemo(() => (data ?? []).filter((r) => matches(r, look)), [data, look]);
  const search = useRef<HTMLInputElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const make = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (typing(e) || document.querySelector("[role=dialog]")) return;
      if (e.key === "/") search.current?.focus();
      else if (e.key === "n") make.current?.click();
      else if (e.key === "j" || e.key === "k") step(list.current, e.key === "j" ? 1 : -1);
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  const [first, ...rest] = found;
  return (
    <>
      <header className="mb-4 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="text-title">Yard</h1>
          <p className="text-soft">All jobs, those that need you first.</p>
        </div>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          hidden
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            if (!chosen) return;
            setKnown(chosen);
            setFault(null);
            void open(commands.importJob(chosen));
            e.target.value = "";
          }}
        />
        <label className="relative min-w-40 flex-1 md:max-w-72">
          <span className="sr-only">Search jobs</span>
          <Search size={18} aria-hidden className="pointer-events-none absolute top-1/2 left-3 -translate-y-1/2 text-soft" />
          <input
            ref={search}
            type="search"
            value={look}
            placeholder="customer, unit, person…"
            onChange={(e) => setLook(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === "ArrowDown") step(list.current, 1);
              if (e.key === "Escape") e.currentTarget.blur();
            }}
            className="min-h-12 w-full rounded-[5px] border-2 border-strong bg-sheet pr-3 pl-10 hover:border-ink"
          />
        </label>
        <Link to="/history" className="casual inline-grid min-h-12 place-items-center rounded-[5px] border-2 border-ink bg-sheet px-4 font-bold hover:bg-green-wash">
          History
        </Link>
        <Button onClick={() => file.current?.click()} className="flex items-center gap-2">
          <Upload size={18} aria-hidden /> Open a job file
        </Button>
        <button
          ref={make}
          type="button"
          onClick={() => void navigate("/new")}
          className="casual flex min-h-12 items-center gap-2 rounded-[5px] border-2 border-ink bg-ink px-4 font-bold text-on-ink"
        >
          <Plus size={18} aria-hidden /> New job
        </button>
      </header>
      {fault && (
        <div className="mb-4">
          <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />
          {known && fault.status === 409 && (
            <Button
              className="mt-2"
              onClick={() => {
                setFault(null);
                void open(commands.importJob(known, true));
              }}
            >
              Open it as a copy
            </Button>
          )}
        </div>
      )}
      {error && !data && <Fault title="The Yard cannot be shown" detail={error.message} />}
      {isPending && <Waits>Looking over the yard…</Waits>}
      {data?.length === 0 && (
        <Suspense fallback={<Waits>Opening…</Waits>}>
          <Welcome />
        </Suspense>
      )}
      {data && data.length > 0 && found.length === 0 && <p className="sheet p-6">No job of that name. Clear the search, or look in the History.</p>}
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_300px]">
        <div ref={list} className="min-w-0">
          {first && <Lead row={first} />}
          <ul className="mt-4 grid list-none gap-4 p-0 md:grid-cols-2">
            {rest.map((r, i) => (
              <li key={r.key} className={i < LAID_OUT ? "" : "[contain-intrinsic-size:auto_180px] [content-visibility:auto]"}>
                <Card row={r} />
              </li>
            ))}
          </ul>
        </div>
        <div className="grid content-start gap-4">
          <Pumps />
          <Ahead />
        </div>
      </div>
    </>
  );
}

/** Whether every word looked for is somewhere in a job's line. */
function matches(r: YardRow, look: string): boolean {
  const text = [r.customer, r.unit, r.title, r.refrigerant, r.technician, r.pump, STAGE_NAMES[r.stage], r.words, r.next_title].join(" ").toLowerCase();
  return look
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
}

/** The next or the previous job takes the focus; Enter then opens it. */
function step(list: HTMLElement | null, by: number): void {
  const all = [...(list?.querySelectorAll<HTMLElement>("a[href^='/jobs/']") ?? [])];
  const now = all.indexOf(document.activeElement as HTMLElement);
  all[Math.min(all.length - 1, Math.max(0, now + by))]?.focus();
}

const name = (r: YardRow) => r.customer || r.title || "Unnamed job";

/** The job that needs a hand next, large. */
function Lead({ row }: { row: YardRow }) {
  return (
    <Link to={`/jobs/${row.key}/${row.stage}`} className="sheet grid gap-x-8 gap-y-3 border-[3px] p-5 md:grid-cols-[1fr_auto]">
      <div className="min-w-0">
        <p className="text-soft">{row.next_title ? "Next job due" : "Latest"}</p>
        <p className="casual mt-1 text-figure leading-tight font-extrabold">
          {row.next_title || row.words || STAGE_NAMES[row.stage]}
        </p>
        <p className="mt-1 text-lead">
          {row.next_at ? <span className="figure mr-2 font-bold">{clock(row.next_at)}</span> : null}
          {name(row)}
          {row.unit ? `, ${row.unit}` : ""} <span className="text-soft">{row.refrigerant}</span>
        </p>
      </div>
      <div className="text-left md:text-right">
        <Figure row={row} size="text-reading" />
        <Pipe row={row} />
      </div>
    </Link>
  );
}

function Card({ row }: { row: YardRow }) {
  return (
    <Link to={`/jobs/${row.key}/${row.stage}`} className="sheet block h-full p-4 hover:bg-green-wash">
      <div className="flex items-start justify-between gap-3">
        <div className="min-w-0">
          <h2 className="text-order">{name(row)}</h2>
          <p className="text-soft">{[row.unit, row.refrigerant].filter(Boolean).join(" · ")}</p>
        </div>
        <Figure row={row} size="text-title" />
      </div>
      <p className="mt-2">
        {row.next_title && row.next_at !== null && row.next_at !== undefined && <span className="figure mr-2 font-bold">{clock(row.next_at)}</span>}
        {row.next_title || row.words || "nothing missing"}
      </p>
      {row.technician && <p className="text-note text-soft">{row.technician}</p>}
      <Pipe row={row} />
    </Link>
  );
}

function Figure({ row, size }: { row: YardRow; size: string }) {
  const u = useUnits();
  if (row.over_range) return <span className={`figure font-bold text-measure ${size}`}>over</span>;
  if (row.pa !== null && row.pa !== undefined && row.live)
    return (
      <span className={`figure leading-none font-bold whitespace-nowrap text-measure ${size}`}>
        {u.reading(row.pa)}
        <span className="text-[0.4em]"> {u.label("pressure")}</span>
      </span>
    );
  const last = row.stages[row.stages.length - 1]?.done;
  return <Tag tone={last ? "pass" : "plain"}>{last ? "recorded" : STAGE_NAMES[row.stage]}</Tag>;
}

/** The stage rail in small. */
function Pipe({ row }: { row: YardRow }) {
  return (
    <div aria-label={`at ${STAGE_NAMES[row.stage]}`} role="img" className="mt-3 flex w-44 items-center">
      {row.stages.map((s, i) => (
        <span key={s.key} className="flex flex-1 items-center first:flex-none">
          {i > 0 && <span className={`h-[3px] flex-1 ${s.done ? "bg-ink" : "bg-strong"}`} />}
          <span className={`rounded-full ${s.key === row.stage ? "size-4 bg-measure" : s.done ? "size-3 bg-ink" : "size-3 border-2 border-strong bg-sheet"}`} />
        </span>
      ))}
    </div>
  );
}
