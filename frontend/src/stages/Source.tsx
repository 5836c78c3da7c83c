import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { ImportOut, Job, LiveOut } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh, refreshRun } from "../api/options";
import { useJob, useSystem } from "../api/queries";
import { ATMOSPHERE_PA, clock, span } from "../lib/format";
import { send } from "../lib/outbox";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Fault, Tag } from "../ui/Sheet";

/** Where readings come from: the simulated gauge, the keypad, a file. */
export function Source({ jobKey, live, hasReadings }: { jobKey: string; live: LiveOut; hasReadings: boolean }) {
  const client = useQueryClient();
  const [keypad, setKeypad] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [fault, setFault] = useState<ApiError | null>(null);
  const [found, setFound] = useState<{ file: File; out: ImportOut } | null>(null);
  const input = useRef<HTMLInputElement>(null);

  const fail = (e: unknown) => e instanceof ApiError && setFault(e);
  const pace = (speed: number, second = false) =>
    commands.standin(jobKey, { speed, second }).then((l) => {
      setFault(null);
      client.setQueryData(options.live(jobKey).queryKey, l);
    }, fail);
  const look = (file: File) => commands.importReadings(jobKey, file, false).then((out) => (setFault(null), setFound({ file, out })), fail);
  const take = () =>
    found &&
    commands.importReadings(jobKey, found.file, true).then(() => {
      setFound(null);
      refresh(client, ["readings"], jobKey);
      refreshRun(client, jobKey);
    }, fail);

  return (
    <div className="mb-1">
      {live.standin ? (
        <div className="flex items-center justify-end gap-2" role="group" aria-label="Pace of the simulated gauge">
          {!live.second && live.gauges.length === 0 && live.phase !== "hold" && (
            <Button kind="quiet" className="mr-auto" onClick={() => void pace(live.speed, true)}>
              Second gauge, at the pump
            </Button>
          )}
          <span className="text-note text-soft">simulated gauge, time</span>
          {[1, 10, 60].map((s) => (
            <Button key={s} kind={live.speed === s ? "solid" : "line"} className="figure min-w-14 px-1!" aria-pressed={live.speed === s} onClick={() => void pace(s)}>
              ×{s}
            </Button>
          ))}
        </div>
      ) : (
        <div className="flex flex-wrap justify-end gap-2">
          <Button onClick={() => setKeypad(true)}>Type</Button>
          <Button onClick={() => setPasting(true)}>Paste</Button>
          <Button onClick={() => input.current?.click()}>Import</Button>
          {!hasReadings && (
            <Button kind="solid" onClick={() => void pace(60)}>
              Simulated gauge, ×60
            </Button>
          )}
        </div>
      )}
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        aria-label="Readings file"
        hidden
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void look(file);
          e.target.value = "";
        }}
      />
      <Modal open={fault !== null} onClose={() => setFault(null)} title="Not taken" wide>
        {fault && <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />}
      </Modal>
      <Modal open={found !== null} onClose={() => setFound(null)} title="Use these readings?" wide>
        {found && <Preview out={found.out} name={found.file.name} onTake={() => void take()} onLeave={() => setFound(null)} />}
      </Modal>
      <Modal open={pasting} onClose={() => setPasting(false)} title="Paste readings" wide>
        <Pasted
          onLook={(text) => {
            setPasting(false);
            void look(new File([text], "pasted.csv", { type: "text/csv" }));
          }}
        />
      </Modal>
      <Keypad open={keypad} onClose={() => setKeypad(false)} jobKey={jobKey} />
    </div>
  );
}

/** Rows from a table or a message: looked at like a file before anything is taken. */
function Pasted({ onLook }: { onLook: (text: string) => void }) {
  const [text, setText] = useState("");
  return (
    <>
      <TextField label="Times and pressures, a row each" value={text} onChange={setText} long />
      <Button kind="solid" className="mt-3 w-full" disabled={!text.trim().includes("\n")} onClick={() => onLook(text)}>
        Look at it
      </Button>
    </>
  );
}

function Preview({ out, name, onTake, onLeave }: { out: ImportOut; name: string; onTake: () => void; onLeave: () => void }) {
  const u = useUnits();
  return (
    <>
      <p>
        <span className="font-bold">{name}</span>: <span className="figure">{u.whole(out.rows)}</span> rows over {span(out.span_s)}, times as {out.time_kind}.{" "}
        {out.over_range > 0 && `${out.over_range} over range or blank. `}
        {out.hold_from_s !== null && out.hold_from_s !== undefined ? `A hold test is seen from ${span(out.hold_from_s)} on.` : "No hold test is seen in it."}
      </p>
      <p className="mt-2">
        {out.columns.map((c) => (
          <span key={c.label} className="mr-3">
            “{c.label}” in <b>{c.unit}</b>
          </span>
        ))}
      </p>
      {out.guesses.map((g) => (
        <p key={g} className="mt-2">
          <Tag tone="caution">guessed</Tag> {g}
        </p>
      ))}
      <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="First rows">
        <table className="figure text-note">
          <tbody>
            {out.preview.map((r, i) => (
              <tr key={i} className="border-t border-rule">
                {r.map((c, k) => (
                  <td key={k} className="px-3 py-1">
                    {c}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-4 flex gap-3">
        <Button kind="solid" className="flex-1" onClick={onTake}>
          Use them
        </Button>
        <Button onClick={onLeave}>Cancel</Button>
      </div>
    </>
  );
}

/** Stands for a gauge held to the pump for a look, which is on no sheet. */
const AT_PUMP = "at-pump";

/** The gauges of the rig that a figure can be typed for, and one held to the pump. */
function gaugesOf(job: Job | undefined) {
  const own = (job?.rig?.parts ?? []).filter((p) => p.kind === "gauge");
  const named = own.map((g, n) => ({ value: g.id, label: g.name || (own.length > 1 ? `gauge ${n + 1}` : "gauge") }));
  return [...(named.length > 0 ? named : [{ value: "", label: "dial" }]), { value: AT_PUMP, label: "at the pump" }];
}

/** A keypad for gloves: the time is stamped when the figure is entered. */
function Keypad({ open, onClose, jobKey }: { open: boolean; onClose: () => void; jobKey: string }) {
  const client = useQueryClient();
  const [text, setText] = useState("");
  const [last, setLast] = useState<string[]>([]);
  const [fault, setFault] = useState<string>("");
  const [chosen, setChosen] = useState<string | null>(null);
  const u = useUnits();
  const job = useJob(jobKey);
  const system = useSystem(jobKey, job.data?.version ?? 0);
  const gauges = gaugesOf(job.data?.job);
  const part = chosen ?? gauges[0]!.value;
  const gauge = part === gauges[0]!.value ? "typed" : `typed, ${gauges.find((g) => g.value === part)?.label ?? part}`;
  // Who reads in inches of mercury reads a dial: vacuum below the air of this place, never above nothing.
  const air = u.of("pressure").key === "inhg" ? (system.data?.atmosphere_pa ?? ATMOSPHERE_PA) : null;
  const unit = air === null ? u.label("pressure") : "inHg vacuum";
  const sign = u.numbers === "point" ? "." : ",";
  const press = (k: string) => setText((t) => (k === "⌫" ? t.slice(0, -1) : k === sign && t.includes(sign) ? t : (t + k).slice(0, 8).replace(/^0+(?=\d)/, "")));
  const enter = (pa: number | null) => {
    const at = Date.now() / 1000;
    const shown = pa === null ? "over" : `${text} ${unit}`;
    send(jobKey, "reading", { gauge, part: part || null, pa }).then(
      (how) => {
        setLast((l) => [`${clock(at, true)}  ${shown}`, ...l].slice(0, 3));
        setText("");
        setFault("");
        if (how === "waiting") return;
        refresh(client, ["readings"], jobKey);
        refreshRun(client, jobKey);
      },
      (e: unknown) => e instanceof ApiError && setFault(e.problem.detail),
    );
  };
  const figure = Number(text.replace(",", "."));
  const above = u.stored("pressure", figure);
  const value = air === null ? above : air - above;
  // A needle may stand a little past the deepest there is.
  const can = Number.isFinite(value) && value <= 120_000 && value >= (air === null ? 0 : -u.stored("pressure", 0.1));
  return (
    <Modal open={open} onClose={onClose} title="Type the reading">
      <div className="mb-2">
        <Segments label="Which gauge" value={part} onChange={setChosen} options={gauges} />
      </div>
      <div className="figure mb-1 rounded-[5px] border-2 border-strong px-3 py-2 text-right text-display leading-none font-bold text-measure" aria-live="polite">
        {text || "0"}
        <span className="text-order text-ink"> {unit}</span>
      </div>
      <div className="figure mb-2 h-16 text-right text-soft">
        {last.map((l) => (
          <div key={l}>{l}</div>
        ))}
      </div>
      {fault && <Fault title="Not stored" detail={fault} />}
      <div className="grid grid-cols-3 gap-2">
        {["7", "8", "9", "4", "5", "6", "1", "2", "3", sign, "0", "⌫"].map((k) => (
          <Button key={k} className="figure min-h-16 text-heading" aria-label={k === "⌫" ? "Back" : k} onClick={() => press(k)}>
            {k}
          </Button>
        ))}
        <Button className="min-h-16" onClick={() => enter(null)}>
          Over
        </Button>
        <Button className="figure min-h-16 text-heading" onClick={() => press("00")}>
          00
        </Button>
        <Button kind="solid" className="min-h-16 text-order" disabled={text === "" || !can} onClick={() => enter(Math.max(0, value))}>
          Enter
        </Button>
      </div>
    </Modal>
  );
}
