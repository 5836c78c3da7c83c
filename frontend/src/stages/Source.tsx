import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { ImportOut, LiveOut } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh, refreshRun } from "../api/options";
import { settle } from "../api/settle";
import { localStamp, moment, span } from "../lib/format";
import { DATE_ORDERS, TIME_UNITS, type TableSaid, type TimeUnit } from "../lib/tableSaid";
import { PACES } from "../lib/paces";
import { toast } from "../lib/toasts";
import { useUnits } from "../lib/units";
import { Button, type Press } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { NumberField, TextField, WhenField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Fault, Tag } from "../ui/Sheet";
import { Keypad } from "./Keypad";

/** Where readings come from: the simulated gauge, the keypad, a file. */
export function Source({ jobKey, live, hasReadings }: { jobKey: string; live: LiveOut; hasReadings: boolean }) {
  const client = useQueryClient();
  const [keypad, setKeypad] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [connecting, setConnecting] = useState(false);
  const u = useUnits();
  const [fault, setFault] = useState<ApiError | null>(null);
  const [found, setFound] = useState<{ file: File; out: ImportOut; said: TableSaid } | null>(null);
  const input = useRef<HTMLInputElement>(null);

  const fail = (e: unknown) => e instanceof ApiError && setFault(e);
  // One after the other: two sent beside each other may come to the server the other way round, and the first would stay.
  const standin = useMutation({
    scope: { id: `gauge ${jobKey}` },
    mutationFn: (set: { speed: number; second: boolean }) => commands.standin(jobKey, set),
    onSuccess: (l) => {
      setFault(null);
      settle(client, options.live(jobKey), l);
    },
    onError: fail,
  });
  const pace = (speed: number, second = false) => standin.mutate({ speed, second });
  const takeOff = () => commands.disconnectGauge(jobKey).then((l) => settle(client, options.live(jobKey), l), fail);
  const look = (file: File, said: TableSaid = {}) => commands.importReadings(jobKey, file, false, said).then((out) => (setFault(null), setFound({ file, out, said })), fail);
  const take: Press = async () => {
    if (!found) return;
    await commands.importReadings(jobKey, found.file, true, found.said).then((out) => {
      toast(out.already_here ? "This table is here already: nothing was stored twice" : `${out.rows} readings taken in`);
      setFound(null);
      refresh(client, ["readings"], jobKey);
      refreshRun(client, jobKey);
    }, fail);
  };

  return (
    <div className="mb-1">
      {live.outside ? (
        <div className="flex flex-wrap items-center justify-end gap-3" role="group" aria-label="Connected gauge">
          <span>
            Gauge at <span className="figure">{live.outside}</span>: {live.stale ? <Tag tone="caution">nothing heard</Tag> : <Tag tone="pass">heard</Tag>}
            {live.ahead > 0 && <span className="text-note text-soft"> its clock is ahead: {u.whole(live.ahead)} readings stand at the moment they came</span>}
            {live.passed_over > 0 && <span className="text-note text-soft"> {u.whole(live.passed_over)} lines passed over</span>}
          </span>
          <Button onClick={takeOff}>Disconnect</Button>
        </div>
      ) : live.standin ? (
        <div className="flex flex-wrap items-center justify-end gap-x-2" role="group" aria-label="Pace of the simulated gauge">
          {!live.second && live.gauges.length === 0 && live.phase !== "hold" && (
            <Button kind="quiet" className="mr-auto" onClick={() => pace(live.speed, true)}>
              Second gauge, at the pump
            </Button>
          )}
          <span className="text-note text-soft max-md:sr-only">simulated gauge, time</span>
          <div className="flex gap-2">
            {PACES.map((s) => (
              <Button key={s} kind={live.speed === s ? "solid" : "line"} className="figure min-w-14 px-1!" aria-pressed={live.speed === s} onClick={() => pace(s)}>
                ×{s}
              </Button>
            ))}
          </div>
        </div>
      ) : (
        <div className="flex flex-wrap justify-end gap-2">
          <Button kind="solid" onClick={() => setKeypad(true)}>
            Type
          </Button>
          <Button onClick={() => setPasting(true)}>Paste</Button>
          <Button onClick={() => input.current?.click()}>Import</Button>
          <Button onClick={() => setConnecting(true)}>Connect</Button>
          {!hasReadings && (
            // To try it out: what it shows is no reading of this system, and stands on the record as such.
            <Button kind="quiet" onClick={() => pace(60)}>
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
        {found && <Preview out={found.out} name={found.file.name} onTake={take} onLeave={() => setFound(null)} onSay={(said) => void look(found.file, { ...found.said, ...said })} />}
      </Modal>
      <Modal open={pasting} onClose={() => setPasting(false)} title="Paste readings" wide>
        <Pasted
          onLook={(text) => {
            setPasting(false);
            void look(new File([text], "pasted.csv", { type: "text/csv" }));
          }}
        />
      </Modal>
      <Modal open={connecting} onClose={() => setConnecting(false)} title="Connect a gauge">
        <Connect
          onConnect={(where) =>
            commands.connectGauge(jobKey, where).then((l) => {
              setConnecting(false);
              settle(client, options.live(jobKey), l);
            }, fail)
          }
        />
      </Modal>
      <Keypad open={keypad} onClose={() => setKeypad(false)} jobKey={jobKey} />
    </div>
  );
}

/** A gauge on the network, or the bridge to one, that speaks the protocol of docs/formats.md. */
function Connect({ onConnect }: { onConnect: (where: { host: string; port: number; opens: string }) => Promise<unknown> }) {
  const [host, setHost] = useState("127.0.0.1");
  const [port, setPort] = useState<number | null>(8060);
  const [opens, setOpens] = useState("gauge");
  return (
    <div className="grid gap-3">
      <p className="text-soft">A gauge or bridge that sends its readings line by line. It is called again whenever the line falls, and after a restart.</p>
      <TextField label="Address" value={host} onChange={setHost} />
      <NumberField label="Port" min={1} max={65535} value={port} onChange={setPort} />
      <TextField label="Gauge's name on the line" value={opens} onChange={setOpens} />
      <Button kind="solid" disabled={!host.trim() || port === null || !opens.trim()} onClick={() => (port === null ? undefined : onConnect({ host: host.trim(), port, opens: opens.trim() }))}>
        Connect
      </Button>
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

/** When a table began that does not say it: readings keep the time at which they were taken. */
function When({ kind, span_s, onSay }: { kind: "day" | "moment"; span_s: number; onSay: (began: string) => void }) {
  const [value, setValue] = useState("");
  const say = (v: string) => {
    setValue(v);
    if (v) onSay(kind === "day" ? v : new Date(v).toISOString());
  };
  const now = () => say(localStamp(Date.now() - (kind === "moment" ? span_s * 1000 : 0)).slice(0, kind === "day" ? 10 : 16));
  return (
    <div className="mt-3 flex items-end gap-3">
      <div className="flex-1">
        <WhenField label={kind === "day" ? "Day of the first row" : "When the first row was read"} kind={kind} value={value} onChange={say} />
      </div>
      <Button onClick={now}>{kind === "day" ? "Today" : "It ended just now"}</Button>
    </div>
  );
}

function Preview({ out, name, onTake, onLeave, onSay }: { out: ImportOut; name: string; onTake: Press; onLeave: () => void; onSay: (said: TableSaid) => void }) {
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
      {out.undecided.includes("time-unit") && <Segments label="Times are in" value={"" as TimeUnit | ""} options={TIME_UNITS} onChange={(v) => v !== "" && onSay({ time_unit: v })} />}
      {out.undecided.includes("day-first") && (
        <Segments label="Dates begin with" value={"" as "day" | "month" | ""} options={DATE_ORDERS} onChange={(v) => onSay({ day_first: v === "day" })} />
      )}
      {out.asks !== "" && <When kind={out.asks} span_s={out.span_s} onSay={(began) => onSay({ began })} />}
      {out.starts_at !== null && out.starts_at !== undefined && (
        <p className="mt-2">
          From <b>{moment(out.starts_at)}</b> to <b>{moment(out.starts_at + out.span_s)}</b>.
        </p>
      )}
      <div className="mt-4 flex gap-3">
        <Button kind="solid" className="flex-1" disabled={out.undecided.length > 0 || out.starts_at === null} onClick={onTake}>
          Use them
        </Button>
        <Button onClick={onLeave}>Cancel</Button>
      </div>
    </>
  );
}
