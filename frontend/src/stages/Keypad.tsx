import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { Job } from "../api/client";
import { ApiError } from "../api/client";
import { options, refresh, refreshRun } from "../api/options";
import { useJob, useSystem } from "../api/queries";
import { ATMOSPHERE_PA, clock } from "../lib/format";
import { hasRoom, NO_ROOM } from "../lib/kept";
import { send } from "../lib/outbox";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";

/** Stands for a gauge held to the pump for a look, which is on no sheet. */
const AT_PUMP = "at-pump";
/** Stands for a needle: a manifold's dial or a pump's own. */
const DIAL = "dial";
/** What dials are marked in. The figure goes to the server with its unit, which asks back what cannot be. */
const MARKED = ["inHg", "psi", "bar", "kPa", "MPa", "cmHg"] as const;
type Marked = (typeof MARKED)[number];
const MARKED_AS: Record<string, Marked> = { inhg: "inHg", psig: "psi", psia: "psi", bar: "bar", barg: "bar", kpa: "kPa", kpag: "kPa" };

/** The gauges of the rig that a figure can be typed for, one held to the pump, and a needle. */
function gaugesOf(job: Job | undefined) {
  const own = (job?.rig?.parts ?? []).filter((p) => p.kind === "gauge");
  const named = own.map((g, n) => ({ value: g.id, label: g.name || (own.length > 1 ? `gauge ${n + 1}` : "gauge") }));
  const dial = { value: DIAL, label: "dial" };
  const pump = { value: AT_PUMP, label: "at the pump" };
  return named.length > 0 ? [...named, pump, dial] : [dial, pump];
}

/** A keypad for gloves: the time is stamped when the figure is entered. */
export function Keypad({ open, onClose, jobKey }: { open: boolean; onClose: () => void; jobKey: string }) {
  const client = useQueryClient();
  const [text, setText] = useState("");
  const [last, setLast] = useState<string[]>([]);
  const [fault, setFault] = useState<string>("");
  const [chosen, setChosen] = useState<string | null>(null);
  const [marked, setMarked] = useState<Marked | null>(null);
  const u = useUnits();
  const job = useJob(jobKey);
  const system = useSystem(jobKey, job.data?.version ?? 0);
  const gauges = gaugesOf(job.data?.job);
  // Who reads in inches of mercury reads a dial, until he says otherwise.
  const part = chosen ?? (u.of("pressure").key === "inhg" ? DIAL : gauges[0]!.value);
  const label = gauges.find((g) => g.value === part)?.label ?? part;
  const gauge = part === gauges[0]!.value && part !== DIAL ? "typed" : `typed, ${label}`;
  const dial = part === DIAL;
  const scale = marked ?? (u.of("pressure").key === "inhg" ? "inHg" : (MARKED_AS[u.of("gauge").key] ?? "inHg"));
  const unit = dial ? scale : u.label("pressure");
  const air = system.data?.atmosphere_pa ?? ATMOSPHERE_PA;
  // A dial counts from the air downward: its figure is one below nothing, with or without the sign.
  const said = `-${text} ${scale}`;
  const understood = useQuery({ ...options.dial(said, air), enabled: dial && text !== "" });
  const sign = u.numbers === "point" ? "." : ",";
  const press = (k: string) => setText((t) => (k === "⌫" ? t.slice(0, -1) : k === sign && t.includes(sign) ? t : (t + k).slice(0, 8).replace(/^0+(?=\d)/, "")));
  const figure = u.stored("pressure", Number(text.replace(",", ".")));
  // Without a signal the needle's words are kept, and understood when they arrive.
  const can = text !== "" && (dial ? understood.error === null : Number.isFinite(figure) && figure >= 0 && figure <= 120_000);
  const enter = (pa: number | null) => {
    const at = Date.now() / 1000;
    const typed = text;
    const shown = dial ? `−${typed} ${scale}` : pa === null ? "over" : `${typed} ${unit}`;
    // A hand types the next one before the server has answered: none of its digits may go with the last.
    setText("");
    send(jobKey, "reading", { gauge, part: part || null, pa, dial: dial ? said : null }).then(
      (how) => {
        setLast((l) => [`${clock(at, true)}  ${shown}`, ...l].slice(0, 3));
        setFault("");
        if (how === "waiting") {
          if (!hasRoom()) setFault(NO_ROOM);
          return;
        }
        refresh(client, ["readings"], jobKey);
        refreshRun(client, jobKey);
      },
      (e: unknown) => {
        if (!(e instanceof ApiError)) return;
        setFault(e.problem.detail);
        // What was not taken stands there to be put right, unless something else is being typed by then.
        setText((now) => now || typed);
      },
    );
  };
  return (
    <Modal open={open} onClose={onClose} title="Type the reading">
      <div className="mb-2 grid gap-2">
        <Segments label="Which gauge" value={part} onChange={setChosen} options={gauges} />
        {dial && <Segments label="Dial in" value={scale} onChange={setMarked} options={MARKED.map((m) => ({ value: m, label: m }))} />}
      </div>
      <div className="figure mb-1 rounded-[5px] border-2 border-strong px-3 py-2 text-right text-display leading-none font-bold text-measure" aria-live="polite">
        {dial && text !== "" && "−"}
        {text || "0"}
        <span className="text-order text-ink"> {unit}</span>
      </div>
      {dial ? (
        <div className="mb-2 min-h-16 text-right text-soft" aria-live="polite">
          {text !== "" && understood.data?.asked && <p className="font-bold text-ink">{understood.data.asked}</p>}
          {text !== "" && understood.data && (
            <p>
              That is {u.say("pressure", understood.data.pa)}, give or take {u.say("pressure", understood.data.blind_pa)}
            </p>
          )}
          {understood.error && <p>{understood.error.message}</p>}
          {text === "" && last[0] && <p className="figure">{last[0]}</p>}
        </div>
      ) : (
        <div className="figure mb-2 h-16 text-right text-soft">
          {last.map((l) => (
            <div key={l}>{l}</div>
          ))}
        </div>
      )}
      {fault && <Fault title={fault === NO_ROOM ? "Not on this device" : "Not stored"} detail={fault} />}
      <div className="grid grid-cols-3 gap-2">
        {["7", "8", "9", "4", "5", "6", "1", "2", "3", sign, "0", "⌫"].map((k) => (
          <Button key={k} className="figure min-h-16 text-heading" aria-label={k === "⌫" ? "Back" : k} onClick={() => press(k)}>
            {k}
          </Button>
        ))}
        <Button className="min-h-16" disabled={dial} onClick={() => enter(null)}>
          Over
        </Button>
        <Button className="figure min-h-16 text-heading" onClick={() => press("00")}>
          00
        </Button>
        <Button kind="solid" className="min-h-16 text-order" disabled={!can} onClick={() => enter(dial ? null : figure)}>
          Enter
        </Button>
      </div>
    </Modal>
  );
}
