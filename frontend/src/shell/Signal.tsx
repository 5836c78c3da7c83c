import { CloudOff, Send } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";

import { clock } from "../lib/format";
import { NO_ROOM } from "../lib/kept";
import { drop, retry, useKept, useRoom, type Waiting } from "../lib/outbox";
import { useReach } from "../lib/reach";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { Tag } from "../ui/Sheet";

/** Whether the server answers, and what waits to be sent to it: said once, politely, over every page. */
export function Signal() {
  const reach = useReach();
  const waiting = useKept();
  const room = useRoom();
  const [open, setOpen] = useState(false);
  const refused = waiting.filter((w) => w.refused);
  if (reach.ok && waiting.length === 0) return null;
  const count = waiting.length - refused.length;
  return (
    <section aria-label="Signal" className="mb-2 rounded-[6px] border-[3px] border-ink bg-sheet px-3 py-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1" role="status">
        {reach.ok ? <Send size={20} aria-hidden className="flex-none" /> : <CloudOff size={20} aria-hidden className="flex-none" />}
        <p className="min-w-0 flex-1">
          {reach.ok ? "The server answers. " : <>No signal since <span className="figure font-bold">{clock(reach.since / 1000)}</span>. <span className="max-md:sr-only">Draw and hold go on here: what you type and log is kept on this device. </span></>}
          {count > 0 && (
            <strong data-testid="waiting">
              {count} waiting to be sent
            </strong>
          )}
          {count > 0 && !room && <strong className="text-stop"> {NO_ROOM}</strong>}
          {refused.length > 0 && <strong className="text-stop"> {refused.length} not taken</strong>}
        </p>
        {waiting.length > 0 && (
          <Button kind="quiet" className="px-2" aria-expanded={open || refused.length > 0} onClick={() => setOpen((o) => !o)}>
            {open ? "Close the list" : "Show them"}
          </Button>
        )}
      </div>
      {(open || refused.length > 0) && (
        <ul className="max-h-60 list-none overflow-auto border-t-2 border-rule p-0">
          {waiting.map((w) => (
            <Item key={w.id} item={w} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Item({ item }: { item: Waiting }) {
  const u = useUnits();
  const body = item.body as { kind?: string; gauge?: string; pa?: number | null };
  const words = item.what === "touch" ? (body.kind ?? "").replace(/[-:]/g, " ") : body.pa === null || body.pa === undefined ? "over range" : u.say("pressure", body.pa);
  return (
    <li className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1 last:border-b-0">
      <span className="figure font-bold">{clock(item.at, true)}</span>
      <span>{words}</span>
      <Link to={`/jobs/${item.job}/draw`} className="text-soft underline">
        {item.job}
      </Link>
      <Tag tone={item.refused ? "stop" : "plain"}>{item.refused ? "not taken" : "waiting"}</Tag>
      {item.refused && (
        <>
          <span className="basis-full text-stop">{item.refused}</span>
          <Button kind="quiet" onClick={() => retry(item.id)}>
            Try again
          </Button>
          <Button kind="quiet" onClick={() => drop(item.id)}>
            Delete it
          </Button>
        </>
      )}
    </li>
  );
}
