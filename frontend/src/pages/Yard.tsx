import { useQueryClient } from "@tanstack/react-query";
import { Plus, Upload } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { JobOut, YardRow } from "../api/client";
import { ApiError, post } from "../api/client";
import { useYard } from "../api/queries";
import { clock } from "../lib/format";
import { useUnits } from "../lib/units";
import { STAGE_NAMES } from "../shell/StageRail";
import { Button } from "../ui/Button";
import { Fault, Tag } from "../ui/Sheet";

/** All jobs: who needs a hand next, and when. */
export function Yard() {
  const { data, isPending, error } = useYard();
  const navigate = useNavigate();
  const client = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState<ApiError | null>(null);
  const [known, setKnown] = useState<File | null>(null);

  const open = (p: Promise<JobOut>) =>
    p.then(
      (j) => {
        void client.invalidateQueries({ queryKey: ["yard"] });
        void navigate(`/jobs/${j.key}/scope`);
      },
      (e: unknown) => e instanceof ApiError && setFault(e),
    );

  const [first, ...rest] = data ?? [];
  return (
    <>
      <header className="mb-4 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-[28px]">Yard</h1>
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
            const form = new FormData();
            form.append("file", chosen);
            void open(post<JobOut>("/job-files", form));
            e.target.value = "";
          }}
        />
        <Link to="/history" className="casual inline-grid min-h-12 place-items-center rounded-[5px] border-2 border-ink bg-sheet px-4 font-bold hover:bg-green-wash">
          History
        </Link>
        <Button onClick={() => file.current?.click()} className="flex items-center gap-2">
          <Upload size={18} aria-hidden /> Open a job file
        </Button>
        <Button kind="solid" onClick={() => void open(post<JobOut>("/jobs", {}))} className="flex items-center gap-2">
          <Plus size={18} aria-hidden /> New job
        </Button>
      </header>
      {fault && (
        <div className="mb-4">
          <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />
          {known && fault.status === 409 && (
            <Button
              className="mt-2"
              onClick={() => {
                const form = new FormData();
                form.append("file", known);
                setFault(null);
                void open(post<JobOut>("/job-files?again=true", form));
              }}
            >
              Open it as a copy
            </Button>
          )}
        </div>
      )}
      {error && <Fault title="The Yard cannot be shown" detail={error.message} />}
      {isPending && <p className="text-soft">Looking over the yard…</p>}
      {data?.length === 0 && (
        <div className="sheet p-8 text-center">
          <h2 className="text-[22px]">No jobs yet</h2>
          <p className="mt-2 text-soft">Open a new one: the system, the rig, and the pump can start.</p>
        </div>
      )}
      {first && <Lead row={first} />}
      <ul className="mt-4 grid list-none gap-4 p-0 md:grid-cols-2">
        {rest.map((r) => (
          <li key={r.key}>
            <Card row={r} />
          </li>
        ))}
      </ul>
    </>
  );
}

const name = (r: YardRow) => r.customer || r.title || "Unnamed job";

/** The job that needs a hand next, large. */
function Lead({ row }: { row: YardRow }) {
  return (
    <Link to={`/jobs/${row.key}/${row.stage}`} className="sheet grid gap-x-8 gap-y-3 border-[3px] p-5 md:grid-cols-[1fr_auto]">
      <div className="min-w-0">
        <p className="text-soft">{row.next_title ? "Needs a hand next" : "Latest"}</p>
        <p className="casual mt-1 text-[30px] leading-tight font-extrabold">
          {row.next_title || row.words || STAGE_NAMES[row.stage]}
        </p>
        <p className="mt-1 text-[18px]">
          {row.next_at ? <span className="figure mr-2 font-bold">{clock(row.next_at)}</span> : null}
          {name(row)}
          {row.unit ? `, ${row.unit}` : ""} <span className="text-soft">{row.refrigerant}</span>
        </p>
      </div>
      <div className="text-left md:text-right">
        <Figure row={row} size="text-[56px]" />
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
          <h2 className="text-[20px]">{name(row)}</h2>
          <p className="text-soft">{[row.unit, row.refrigerant].filter(Boolean).join(" · ")}</p>
        </div>
        <Figure row={row} size="text-[28px]" />
      </div>
      <p className="mt-2">{row.next_title || row.words || "nothing missing"}</p>
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
        {u.figure("pressure", row.pa)}
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
