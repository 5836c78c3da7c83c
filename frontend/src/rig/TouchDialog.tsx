import { useState } from "react";

import type { ForesightOut, LiveOut, PlanOut } from "../api/client";
import { ApiError } from "../api/client";
import { useForesight, useOffers, useTouch } from "../api/queries";
import { isShut } from "./line";
import { calledOn } from "./parts";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { Fault, Tag } from "../ui/Sheet";
import { capital } from "../lib/capital";

/** What is asked after: a valve of the rig (the pump where none is named), a part or section, or one step of a list. */
export type Asked = { valve: string | null } | { part: string } | { kind: string; words: string } | null;
type Valve = { valve: string | null };

/** A touch before it is made: what it would do, and a second question where it should not be done. */
export function TouchDialog({ asked, onClose, jobKey, plan, live, shut }: { asked: Asked; onClose: () => void; jobKey: string; plan: PlanOut; live: LiveOut; shut: string[] }) {
  return (
    <Modal open={asked !== null} onClose={onClose} title={asked === null ? "" : "kind" in asked ? "Look before you do this" : "part" in asked ? capital(calledOn(plan, asked.part)) : titleOf(asked, plan, live, shut)}>
      {asked !== null && "part" in asked && <Offers name={asked.part} jobKey={jobKey} onClose={onClose} />}
      {asked !== null && "kind" in asked && <Offered kind={asked.kind} words={asked.words} jobKey={jobKey} onClose={onClose} />}
      {asked !== null && "valve" in asked && <Question key={asked.valve ?? "pump"} asked={kindOf(asked, plan, live, shut)} onClose={onClose} jobKey={jobKey} plan={plan} live={live} />}
    </Modal>
  );
}

/** The touch that a press stands for. Valves that isolate together are turned together. */
export function kindOf({ valve }: Valve, plan: PlanOut, live: LiveOut, shut: string[]): string {
  if (valve === null) return live.pump_on ? "pump-off" : "pump-on";
  const closed = isShut(plan, valve, shut);
  if (plan.isolate_valves.includes(valve)) return closed ? "reopen" : "isolate";
  return `${closed ? "open" : "shut"}:${valve}`;
}

/** Every touch that a part allows, each with what it would do. */
function Offers({ name, jobKey, onClose }: { name: string; jobKey: string; onClose: () => void }) {
  const offers = useOffers(jobKey, name);
  if (offers.error) return <Fault title="What can be done here is not known" detail={offers.error.message} />;
  if (offers.data?.length === 0) return <p className="text-soft">Nothing here is turned, pulled or taken off.</p>;
  return (
    <ul className="list-none p-0">
      {(offers.data ?? []).map((o) => (
        <li key={o.kind} className="border-t-2 border-rule pt-3 pb-4 first:border-0 first:pt-0">
          <Offered kind={o.kind} words={o.words} jobKey={jobKey} onClose={onClose} />
        </li>
      ))}
    </ul>
  );
}

function Offered({ kind, words, jobKey, onClose }: { kind: string; words: string; jobKey: string; onClose: () => void }) {
  const seen = useForesight(jobKey, kind);
  const touch = useTouch(jobKey);
  const stops = (seen.data?.consequences ?? []).filter((c) => c.severity === "stop");
  const log = () => touch.mutate({ kind, said: words, note: stops.length > 0 ? `against: ${stops.map((s) => s.words.toLowerCase()).join("; ")}` : undefined }, { onSuccess: onClose });
  return (
    <>
      <h3 className="casual mb-1 text-lead font-extrabold">{words}</h3>
      {seen.error && !seen.data && <Unforeseen error={seen.error} />}
      {seen.data && <Consequences seen={seen.data} />}
      {touch.error && <Fault title="Not logged" detail={touch.error.message} />}
      {kind !== "energise" && (
        <Button className="mt-2" disabled={touch.isPending || (!seen.data && !seen.error)} onClick={log}>
          {stops.length > 0 ? "Done anyway" : "Done"}
        </Button>
      )}
    </>
  );
}

function titleOf(asked: Valve, plan: PlanOut, live: LiveOut, shut: string[]): string {
  const kind = kindOf(asked, plan, live, shut);
  if (kind === "isolate") return `Isolate at ${plan.isolate_where}?`;
  if (kind === "reopen") return "The system is closed off";
  return `${saidOf(kind, plan)}?`;
}

function Question({ asked, onClose, jobKey, plan, live }: { asked: string; onClose: () => void; jobKey: string; plan: PlanOut; live: LiveOut }) {
  // What was asked stays what is asked, though the run moves on as soon as it is answered.
  const [kind] = useState(asked);
  const seen = useForesight(jobKey, kind);
  const touch = useTouch(jobKey);
  const act = (made: string, note?: string) => touch.mutate({ kind: made, note, said: saidOf(made, plan) }, { onSuccess: onClose });
  const said = seen.data?.consequences ?? [];
  const stops = said.filter((c) => c.severity === "stop");
  return (
    <>
      {kind === "isolate" && (
        <p className="mb-2">
          The hold test begins. Inside: {plan.isolate_inside}. {live.pump_on ? "Stop the pump only after this." : ""}
        </p>
      )}
      {kind === "reopen" && live.pump_on && <p className="mb-2">The pump is running: opening draws the system down again, and the hold test starts again after it.</p>}
      {seen.error && !seen.data && <Unforeseen error={seen.error} />}
      {seen.data && <Consequences seen={seen.data} />}
      {touch.error && <Fault title="Not logged" detail={touch.error.message} />}
      <div className="mt-4 flex flex-wrap gap-3">
        {stops.length === 0 ? (
          <Button kind="solid" className="flex-1" disabled={touch.isPending || (!seen.data && !seen.error)} onClick={() => act(kind)}>
            {doWords(kind)}
          </Button>
        ) : (
          <>
            {kind === "reopen" && !live.pump_on && (
              <Button kind="solid" className="flex-1" disabled={touch.isPending} onClick={() => act("pump-on")}>
                Start the pump
              </Button>
            )}
            <Button disabled={touch.isPending} onClick={() => act(kind, `against: ${stops.map((s) => s.words.toLowerCase()).join("; ")}`)}>{doWords(kind)} all the same</Button>
          </>
        )}
        <Button kind={stops.length > 0 && kind !== "reopen" ? "solid" : undefined} onClick={onClose}>
          Cancel
        </Button>
      </div>
    </>
  );
}

/** What was logged, in words: with the valve, where it is one. */
function saidOf(kind: string, plan: PlanOut): string {
  const [way, valve = ""] = kind.split(":");
  const whole: Record<string, string> = { "pump-on": "Start the pump", "pump-off": "Stop the pump", isolate: "Isolate", reopen: "Open again" };
  return whole[kind] ?? `${way === "open" ? "Open" : "Close"} ${plan.valves[valve] ?? valve}`;
}

function doWords(kind: string): string {
  const known: Record<string, string> = { "pump-on": "Start it", "pump-off": "Stop it", isolate: "Isolate", reopen: "Open again" };
  return known[kind] ?? (kind.startsWith("open") ? "Open it" : "Close it");
}

/** What would follow, the gravest first. */
function Consequences({ seen }: { seen: ForesightOut }) {
  if (seen.consequences.length === 0) return <p className="text-soft">Nothing is let in, cut off or lost by it.</p>;
  return (
    <ul className="list-none p-0" role={seen.stop ? "alert" : undefined}>
      {seen.consequences.map((c) => (
        <li key={c.words} className={`mb-2 border-l-[5px] pl-3 ${c.severity === "stop" ? "border-stop" : c.severity === "caution" ? "border-ochre" : "border-rule"}`}>
          <Tag tone={c.severity === "note" ? "plain" : c.severity}>{c.severity}</Tag>
          <p className="casual mt-1 text-lead leading-tight font-extrabold">{c.words}</p>
          {c.why && <p>{c.why}</p>}
        </li>
      ))}
    </ul>
  );
}

/** What would follow cannot be said: without signal that is the person's own to judge. */
function Unforeseen({ error }: { error: Error }) {
  if (error instanceof ApiError && error.status === 0)
    return <p className="border-l-[5px] border-ochre pl-3">Without signal it is not worked out what this would do. Isolate first, pump off second; nothing comes off in a vacuum.</p>;
  return <Fault title="What it would do is not known" detail={error.message} />;
}
