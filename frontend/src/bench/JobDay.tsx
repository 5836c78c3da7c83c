import { CalendarPlus } from "lucide-react";
import { useState } from "react";

import type { Job } from "../api/client";
import { hrefs } from "../api/commands";
import type { Editor } from "../api/editor";
import { useJobDay } from "../api/queries";
import { Button, FileLink } from "../ui/Button";
import { Fault } from "../ui/Sheet";
import { Strip, TouchTable } from "./Strip";
import { toLocal, fromLocal } from "./when";

/** When the touches of this job come, started at a time of one's own. */
export function JobDay({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const planned = job.plans?.start_at ?? null;
  const [now] = useState(() => Math.floor(Date.now() / 60_000) * 60);
  const start = planned ?? now;
  const { data, error } = useJobDay(jobKey, editor.version, start);
  const set = (at: number | null) => editor.edit((j) => ({ ...j, plans: { ...j.plans, start_at: at } }));
  if (error) return <Fault title="The day cannot be laid out" detail={error.message} />;
  const touches = data?.touches ?? [];
  const from = (touches[0]?.at.value ?? start) - 600;
  const to = (touches[touches.length - 1]?.at.high ?? start + 3600) + 1200;
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <label>
          <span className="mb-1 block text-soft">Pump starts</span>
          <input
            type="datetime-local"
            value={toLocal(start)}
            onChange={(e) => {
              const at = fromLocal(e.target.value);
              if (at !== null) set(at);
            }}
            className="figure min-h-12 rounded-[5px] border-2 border-strong bg-sheet px-3"
          />
        </label>
        {planned === null ? (
          <Button onClick={() => set(now)}>Plan it for now</Button>
        ) : (
          <Button onClick={() => set(null)}>Not planned yet</Button>
        )}
        <FileLink href={hrefs.jobCalendar(jobKey, start)}>
          <CalendarPlus size={18} aria-hidden /> Calendar
        </FileLink>
      </div>
      {data && <Strip job={data} from={from} to={to} now={now} />}
      {data && <TouchTable job={data} />}
      <p className="mt-2 text-soft">Computed ahead, from early to late. The gauge decides.</p>
    </div>
  );
}
