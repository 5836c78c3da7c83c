import { X } from "lucide-react";

import type { Catalogue, Job, PlanOut, RigPiece, Slot } from "../api/client";
import type { Editor } from "../api/editor";
import { useCatalogue } from "../api/queries";
import { kindWords, partOf, withPart } from "../rig/parts";
import { MICRON_PA } from "../lib/format";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { capital } from "../lib/capital";

interface Props {
  job: Job;
  editor: Editor;
  plan: PlanOut;
  part: string;
  onClose: () => void;
}

/** One slot of the rig: exchange the part from the van or the catalogue, change it, put something by it, take it off. */
export function PartEditor({ job, editor, plan, part, onClose }: Props) {
  const { data: cat } = useCatalogue();
  const piece = partOf(job.rig, part);
  if (!piece || !cat) return null;
  const slot = plan.slots.find((s) => s.part === part);
  const ask = (body: Record<string, unknown>) => editor.ask("rig", body);
  const set = (fields: Record<string, unknown>, sameKit = false) =>
    editor.edit((j) => withPart(j, part, (sameKit ? fields : { ...fields, kit: null, name: piece.kit ? "" : piece.name }) as Partial<RigPiece>), "typing");
  const title = kindWords(piece.kind);
  return (
    <Sheet
      title={
        <>
          {capital(title)}
          {piece.name && <span className="font-normal text-soft"> {piece.name}</span>}
        </>
      }
      aside={
        <button type="button" aria-label="Close the part" onClick={onClose} className="-my-3 -mr-3 grid size-12 place-items-center">
          <X aria-hidden />
        </button>
      }
    >
      {(slot?.kit.length ?? 0) > 0 && (
        <div className="mb-3">
          <span className="mb-1 block text-soft">From the van</span>
          <div className="flex flex-wrap gap-2" role="group" aria-label="From the van">
            {slot!.kit.map((k) => (
              <Button key={k.value} onClick={() => ask({ op: "kit", part, kit: Number(k.value) })}>
                {k.label}
              </Button>
            ))}
          </div>
        </div>
      )}
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <Fields piece={piece} cat={cat} set={set} />
        {piece.port && <PortFields job={job} port={piece.port} ask={ask} />}
      </div>
      <Around slot={slot} piece={piece} ask={ask} onClose={onClose} job={job} />
    </Sheet>
  );
}

type Set = (fields: Record<string, unknown>, sameKit?: boolean) => void;
type Ask = (body: Record<string, unknown>) => Promise<boolean>;
/** A choice for what is as the rest of the part. */
const SAME = "same";
const yesNo = [
  { value: "no", label: "No" },
  { value: "yes", label: "Yes" },
];

function Fields({ piece, cat, set }: { piece: RigPiece; cat: Catalogue; set: Set }) {
  const sizes = (list: string[]) => list.map((s) => ({ value: s, label: s }));
  switch (piece.kind) {
    case "pump":
      return (
        <>
          <NumberField label="Plate displacement" dim="flow" per={0.3048 ** 3 / 60} min={0.5} max={100} value={piece.plate_cfm} onChange={(v) => v !== null && set({ plate_cfm: v })} />
          <Segments label="Stages" value={String(piece.stages ?? 2)} options={sizes(["1", "2"])} onChange={(v) => set({ stages: Number(v) })} />
          <NumberField label="Blank-off, measured" dim="pressure" per={MICRON_PA} optional min={1} max={20000} value={piece.blank_off_micron} onChange={(v) => set({ blank_off_micron: v }, true)} />
          <Segments
            label="Oil"
            value={piece.oil ?? "fresh"}
            options={[
              { value: "fresh", label: "Fresh" },
              { value: "used", label: "Used" },
              { value: "wet", label: "Milky" },
            ]}
            onChange={(v) => set({ oil: v }, true)}
          />
          <NumberField label="Current on its plate" unit="A" optional min={0.1} max={60} value={piece.current_a} onChange={(v) => set({ current_a: v }, true)} />
          <Segments label="Own isolation valve" value={piece.valve === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ valve: v === "yes" }, true)} />
          <Segments label="Gas ballast" value={piece.ballast === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ ballast: v === "yes" }, true)} />
          <SelectField label="Intake used" value={piece.intake ?? "1/2 in"} options={sizes(cat.hose_sizes)} onChange={(v) => set({ intake: v }, true)} />
          <Segments label="Coarse dial of its own" value={piece.dial ? "yes" : "no"} options={yesNo} onChange={(v) => set({ dial: v === "yes" }, true)} />
          <Segments label="Rated for A2L" value={piece.rated_a2l === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ rated_a2l: v === "yes" }, true)} />
          <Segments label="Rated for A3" value={piece.rated_a3 === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ rated_a3: v === "yes" }, true)} />
        </>
      );
    case "hose":
      return (
        <>
          <SelectField label="Bore" value={piece.size ?? ""} options={sizes(cat.hose_sizes)} onChange={(v) => set({ size: v })} />
          <SelectField label="Bore, system end" value={piece.size_far ?? SAME} options={[{ value: SAME, label: "the same" }, ...sizes(cat.hose_sizes)]} onChange={(v) => set({ size_far: v === SAME ? null : v })} />
          <NumberField label="Length" dim="length" min={0.05} max={60} value={piece.length_m} onChange={(v) => v !== null && set({ length_m: v })} />
          <SelectField
            label="Made for"
            value={piece.made_for ?? "vacuum"}
            options={[
              { value: "vacuum", label: "vacuum" },
              { value: "pressure", label: "charging" },
            ]}
            onChange={(v) => set({ made_for: v })}
          />
          <SelectField
            label="Age"
            value={piece.age ?? "used"}
            options={[
              { value: "new", label: "new" },
              { value: "used", label: "used, cured" },
              { value: "old", label: "old, oily" },
            ]}
            onChange={(v) => set({ age: v }, true)}
          />
          <Segments
            label="Depressor in its end"
            value={piece.depressor ? "yes" : "no"}
            options={[
              { value: "no", label: "Taken out" },
              { value: "yes", label: "Still in" },
            ]}
            onChange={(v) => set({ depressor: v === "yes" }, true)}
          />
          <Segments label="Ball valve at its end" value={piece.ball_end ? "yes" : "no"} options={yesNo} onChange={(v) => set({ ball_end: v === "yes" }, true)} />
          <Segments label="Low-loss end" value={piece.low_loss ? "yes" : "no"} options={yesNo} onChange={(v) => set({ low_loss: v === "yes" }, true)} />
          <SelectField label="End fits" value={piece.fits ?? "1/4 in"} options={sizes(cat.port_sizes)} onChange={(v) => set({ fits: v }, true)} />
          <SelectField label="Flare, pump end" value={piece.near_end ?? SAME} options={[{ value: SAME, label: "as wide as its bore" }, ...sizes(cat.port_sizes)]} onChange={(v) => set({ near_end: v === SAME ? null : v }, true)} />
          <SelectField label="Flare, system end" value={piece.far_end ?? SAME} options={[{ value: SAME, label: "as wide as its bore" }, ...sizes(cat.port_sizes)]} onChange={(v) => set({ far_end: v === SAME ? null : v }, true)} />
          <NumberField label="Rated" dim="gauge" per={1000} optional min={1} max={20000} value={piece.rated_kpa} onChange={(v) => set({ rated_kpa: v }, true)} />
        </>
      );
    case "tool":
      return (
        <>
          <SelectField label="Bore" value={piece.bore ?? ""} options={sizes(cat.tool_bores)} onChange={(v) => set({ bore: v })} />
          <SelectField label="Fits" value={piece.fits ?? "1/4 in"} options={sizes(cat.port_sizes)} onChange={(v) => set({ fits: v }, true)} />
          <Segments label="Made for vacuum" value={piece.vacuum_rated === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ vacuum_rated: v === "yes" }, true)} />
          <Segments
            label="Plunger"
            value={piece.plunger ?? "hose-end"}
            options={[
              { value: "hose-end", label: "At the hose end" },
              { value: "own", label: "On its own" },
            ]}
            onChange={(v) => set({ plunger: v }, true)}
          />
          <Segments
            label="Core of its side port"
            value={piece.side_core ? "in" : "out"}
            options={[
              { value: "out", label: "Out" },
              { value: "in", label: "In" },
            ]}
            onChange={(v) => set({ side_core: v === "in" }, true)}
          />
        </>
      );
    case "manifold":
      return (
        <>
          <SelectField label="Body" value={piece.body ?? ""} options={sizes(cat.manifolds)} onChange={(v) => set({ body: v })} />
          <SelectField
            label="Pump on its port"
            value={piece.inlet ?? "vacuum"}
            options={(piece.body === "two-valve" ? ["centre", "low", "high"] : ["vacuum", "charge", "low", "high"]).map((v) => ({ value: v, label: v }))}
            onChange={(v) => set({ inlet: v }, true)}
          />
          <Segments label="Dials that show pressure" value={piece.dials === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ dials: v === "yes" }, true)} />
        </>
      );
    case "gauge":
      return (
        <>
          <SelectField label="Class" value={piece.make ?? "thermistor"} options={cat.gauges} onChange={(v) => set({ make: v })} />
          <NumberField label="Resolution" dim="pressure" per={MICRON_PA} min={0.1} max={1000} value={piece.resolution_micron} onChange={(v) => v !== null && set({ resolution_micron: v })} />
          <NumberField label="Reads below" dim="pressure" per={MICRON_PA} min={1000} max={800000} value={piece.over_micron} onChange={(v) => v !== null && set({ over_micron: v })} />
          <NumberField label="Rated" dim="gauge" per={1000} min={1} max={20000} value={piece.stands_kpa} onChange={(v) => v !== null && set({ stands_kpa: v })} />
          <Segments label="Own shut-off valve" value={piece.valve ? "yes" : "no"} options={yesNo} onChange={(v) => set({ valve: v === "yes" }, true)} />
          <NumberField label="Known to read high by" dim="pressure" per={MICRON_PA} optional min={-5000} max={5000} value={piece.offset_micron || null} onChange={(v) => set({ offset_micron: v ?? 0 }, true)} />
          <NumberField label="Shows pressure up to" dim="gauge" per={1000} optional min={1} max={20000} value={piece.shows_kpa} onChange={(v) => set({ shows_kpa: v }, true)} />
          {(piece.port || piece.at === "side") && <Segments label="Depresses the core" value={piece.depressor === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ depressor: v === "yes" }, true)} />}
        </>
      );
    case "adapter":
      return (
        <>
          <SelectField label="Fits" value={piece.fits ?? "5/16 in"} options={sizes(cat.port_sizes)} onChange={(v) => set({ fits: v })} />
          <Segments label="Depresses the core" value={piece.depressor ? "yes" : "no"} options={yesNo} onChange={(v) => set({ depressor: v === "yes" }, true)} />
        </>
      );
    case "cylinder":
      return <Segments label="On a scale" value={piece.on_scale === false ? "no" : "yes"} options={yesNo} onChange={(v) => set({ on_scale: v === "yes" }, true)} />;
    default:
      return null;
  }
}

/** The port that the part is screwed on: its core. */
function PortFields({ job, port, ask }: { job: Job; port: string; ask: Ask }) {
  const found = job.scope?.ports?.find((p) => p.id === port);
  if (!found || found.core === false) return null;
  const tool = job.rig?.parts?.find((p) => p.port === port)?.kind === "tool";
  const inside = tool ? (job.rig?.cores_in ?? []).includes(port) : !(job.rig?.cores_out ?? []).includes(port);
  return (
    <Segments
      label={`Core of the ${found.name || port}`}
      value={inside ? "in" : "out"}
      options={[
        { value: "out", label: "Pulled" },
        { value: "in", label: "Left in" },
      ]}
      onChange={(v) => void ask({ op: "core", port, fields: { in: v === "in" } })}
    />
  );
}

const ON: Record<string, string[]> = {
  pump: ["gauge", "hose", "tee"],
  tee: ["hose", "gauge"],
  manifold: ["hose", "gauge"],
  tool: ["gauge", "tool", "hose"],
  hose: ["tool", "cylinder", "nitrogen", "gauge"],
  adapter: ["tool", "gauge", "hose"],
  valve: ["hose", "gauge"],
};

/** What can be put by this part, and taken off. */
function Around({ slot, piece, ask, onClose, job }: { slot: Slot | undefined; piece: RigPiece; ask: Ask; onClose: () => void; job: Job }) {
  if (!slot) return null;
  const add = (kind: string, at: string) => void ask({ op: "add", on: slot.part, at, fields: { kind } });
  const outlets = slot.free_outlets.flatMap((o) => (o === "sensor" ? ["gauge"] : (ON[piece.kind ?? ""] ?? [])).map((k) => ({ o, k })));
  const places = piece.kind === "gauge" ? gaugePlaces(job, slot) : [];
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3 border-t-2 border-rule pt-3">
      {outlets.length > 0 && (
        <div className="w-56">
          <SelectField<string>
            label="Connect"
            value=""
            options={outlets.map(({ o, k }) => ({ value: `${k}@${o}`, label: `${kindWords(k)}, ${o === "end" ? "at its end" : `on ${o}`}` }))}
            onChange={(v) => {
              const [kind, at] = v.split("@");
              add(kind!, at!);
            }}
          />
        </div>
      )}
      {places.length > 0 && (
        <div className="w-72">
          <SelectField<string>
            label="Move to"
            value=""
            options={places.map((p, i) => ({ value: String(i), label: p.label }))}
            onChange={(v) => {
              const p = places[Number(v)]!;
              void ask({ op: "move", part: slot.part, on: p.on, at: p.at, port: p.port });
            }}
          />
        </div>
      )}
      {piece.kind === "gauge" && (
        <Button onClick={() => ask(piece.on ? { op: "insert", part: slot.part, fields: { kind: "tool" } } : { op: "at-port", part: slot.part, fields: { kind: "tool" } })}>
          Put a core tool under it
        </Button>
      )}
      {piece.port && piece.kind === "hose" && (
        <>
          <Button onClick={() => ask({ op: "at-port", part: slot.part, fields: { kind: "tool" } })}>Put a core tool at its port</Button>
          <Button onClick={() => ask({ op: "at-port", part: slot.part, fields: { kind: "adapter" } })}>Put an adapter at its port</Button>
        </>
      )}
      {piece.kind === "hose" && <Button onClick={() => ask({ op: "insert", part: slot.part, fields: { kind: "valve" } })}>Put a ball valve before it</Button>}
      {slot.removable && (
        <Button
          kind="stop"
          className="ml-auto"
          onClick={() => {
            void ask({ op: "remove", part: slot.part }).then((ok) => ok && onClose());
          }}
        >
          Take it off
        </Button>
      )}
    </div>
  );
}

/** Where a gauge can be moved: side ports and sensors that are free, and free service ports. */
function gaugePlaces(job: Job, slot: Slot): { label: string; on: string | null; at: string; port: string | null }[] {
  const parts = job.rig?.parts ?? [];
  const found: { label: string; on: string | null; at: string; port: string | null }[] = [];
  for (const p of parts) {
    const taken = (at: string) => parts.some((c) => c.on === p.id && (c.at ?? "end") === at);
    if (p.kind === "tool" && !taken("side")) found.push({ label: `side of ${p.name || p.id}`, on: p.id, at: "side", port: null });
    if (p.kind === "tool" && !(p.on && p.port) && !taken("end")) found.push({ label: `end of ${p.name || p.id}`, on: p.id, at: "end", port: null });
    if (p.kind === "manifold" && !taken("sensor")) found.push({ label: "at the manifold", on: p.id, at: "sensor", port: null });
    if (p.kind === "pump" && !taken("side")) found.push({ label: "at the pump", on: p.id, at: "side", port: null });
  }
  for (const port of slot.free_ports) found.push({ label: `straight on the ${port.label}`, on: null, at: "end", port: port.value });
  return found;
}
