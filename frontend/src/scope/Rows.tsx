import { ChevronDown, Plus, Trash2 } from "lucide-react";
import { useState } from "react";

import type { Catalogue, Link, Port, ScopeDoc, Section, SystemOut } from "../api/client";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField, TextField } from "../ui/Field";
import { Tag } from "../ui/Sheet";
import type { Change } from "./SystemSheet";

interface Props {
  scope: ScopeDoc;
  set: Change;
  cat: Catalogue;
  system?: SystemOut;
}

const opts = (list: string[]) => list.map((s) => ({ value: s, label: s }));
const yesNo = [
  { value: "no", label: "No" },
  { value: "yes", label: "Yes" },
];
const SIZED = ["evaporator", "condenser", "reheat", "compressor"];
const SIDES = [
  { value: "suction", label: "suction" },
  { value: "liquid", label: "liquid" },
  { value: "discharge", label: "discharge" },
  { value: "other", label: "other" },
];

/** An id nothing in the list has yet. */
function freshId(list: { id: string }[], base: string): string {
  const taken = new Set(list.map((x) => x.id));
  for (let n = 1; ; n++) if (!taken.has(`${base}-${n}`)) return `${base}-${n}`;
}

function Row({ open, toggle, label, children, main }: { open: boolean; toggle: () => void; label: string; children: React.ReactNode; main: React.ReactNode }) {
  return (
    <li className="border-t border-rule py-1.5 first:border-0">
      <div className="flex items-end gap-2">
        <div className="min-w-0 flex-1">{main}</div>
        <button type="button" aria-expanded={open} aria-label={`${open ? "Less" : "More"} of ${label}`} onClick={toggle} className="grid size-12 flex-none place-items-center rounded-[5px] hover:bg-green-wash">
          <ChevronDown size={20} aria-hidden className={open ? "rotate-180" : ""} />
        </button>
      </div>
      {open && <div className="mt-2 grid gap-3 rounded-[5px] border-2 border-rule p-3 sm:grid-cols-2 lg:grid-cols-3">{children}</div>}
    </li>
  );
}

/** Sections: what matters of each in its line, the rest behind it. */
export function Sections({ scope, set, cat, system }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const u = useUnits();
  const list = scope.sections ?? [];
  const change = (id: string, fields: Partial<Section>, at: "once" | "typing" = "typing") =>
    set({ sections: list.map((s) => (s.id === id ? { ...s, ...fields } : s)) }, at);
  const remove = (id: string) =>
    set(
      {
        sections: list.filter((s) => s.id !== id),
        links: (scope.links ?? []).filter((x) => x.a !== id && x.b !== id),
        ports: (scope.ports ?? []).filter((p) => p.section !== id),
        water_section: scope.water_section === id ? null : scope.water_section,
      },
      "once",
    );
  return (
    <>
      <ul className="list-none p-0">
        {list.map((s) => {
          const out = system?.sections.find((x) => x.name === s.id);
          const name = s.name || s.id;
          return (
            <Row
              key={s.id}
              label={name}
              open={open === s.id}
              toggle={() => setOpen(open === s.id ? null : s.id)}
              main={
                <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)_minmax(0,1fr)_112px]">
                  <div className="col-span-2 self-center sm:col-span-1">
                    <span className="font-bold">{name}</span> {out?.state === "charge" && <Tag tone="plain">keeps its charge</Tag>}
                    {out?.state === "left-out" && <Tag tone="stop">not reached</Tag>}
                    {s.cold && <Tag tone="caution">coldest</Tag>}
                  </div>
                  {s.kind === "line" ? (
                    <>
                      <SelectField label={`Size of ${name}`} quiet value={s.size ?? ""} options={opts(cat.tube_sizes)} onChange={(v) => change(s.id, { size: v }, "once")} />
                      <NumberField label={`Length of ${name}`} quiet dim="length" min={0.1} max={500} value={s.length_m} onChange={(v) => v !== null && change(s.id, { length_m: v })} />
                    </>
                  ) : SIZED.includes(s.kind ?? "") ? (
                    <NumberField label={`Capacity of ${name}`} quiet dim="capacity" min={0.1} max={2000} value={s.capacity_kw} onChange={(v) => v !== null && change(s.id, { capacity_kw: v })} />
                  ) : s.kind === "drier" ? null : (
                    <NumberField label={`Volume of ${name}`} quiet dim="volume" min={0.001} max={5000} value={s.volume_l} onChange={(v) => v !== null && change(s.id, { volume_l: v })} />
                  )}
                  <span className="figure col-start-2 self-center text-right whitespace-nowrap sm:col-start-4">{out ? u.say("volume", out.volume_m3.value * 1e3) : ""}</span>
                </div>
              }
            >
              <TextField label="Name" value={s.name ?? ""} onChange={(v) => change(s.id, { name: v })} />
              <SelectField
                label="Kind"
                value={s.kind ?? "line"}
                options={cat.section_kinds}
                onChange={(v) => {
                  const kw = SIZED.includes(v) && !s.capacity_kw ? { capacity_kw: 5 } : {};
                  const litres = ["vessel", "cylinder"].includes(v) && !s.volume_l ? { volume_l: 5 } : {};
                  change(s.id, { kind: v, ...kw, ...litres }, "once");
                }}
              />
              <SelectField label="Side" value={s.side ?? "other"} options={SIDES} onChange={(v) => change(s.id, { side: v }, "once")} />
              <NumberField label="Volume, if known" dim="volume" optional min={0.001} max={5000} value={s.volume_l} onChange={(v) => change(s.id, { volume_l: v })} />
              <Segments
                label="The coldest spot is here"
                value={s.cold ? "yes" : "no"}
                options={yesNo}
                onChange={(v) => set({ sections: list.map((x) => ({ ...x, cold: x.id === s.id ? v === "yes" : v === "yes" ? false : x.cold })) }, "once")}
              />
              <Segments
                label="This time"
                value={s.holds_charge ? "charge" : "vacuum"}
                options={[
                  { value: "vacuum", label: "Evacuated" },
                  { value: "charge", label: "Keeps its charge" },
                ]}
                onChange={(v) => change(s.id, { holds_charge: v === "charge" }, "once")}
              />
              <Button kind="stop" className="flex items-center justify-center gap-2" onClick={() => remove(s.id)}>
                <Trash2 size={18} aria-hidden /> Remove, with its connections
              </Button>
            </Row>
          );
        })}
      </ul>
      <Button
        className="mt-2 flex items-center gap-2"
        onClick={() => {
          const id = freshId(list, "section");
          set({ sections: [...list, { id, name: "", kind: "line", side: "other", size: "3/8 in", length_m: 5 } as Section] }, "once");
          setOpen(id);
        }}
      >
        <Plus size={18} aria-hidden /> A section
      </Button>
    </>
  );
}

/** What joins the sections: each valve open or closed, and how it is opened. */
export function Links({ scope, set, cat, system }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const list = scope.links ?? [];
  const sections = (scope.sections ?? []).map((s) => ({ value: s.id, label: s.name || s.id }));
  const change = (id: string, fields: Partial<Link>, at: "once" | "typing" = "once") => set({ links: list.map((x) => (x.id === id ? { ...x, ...fields } : x)) }, at);
  const named = (id: string) => sections.find((s) => s.value === id)?.label ?? id;
  return (
    <>
      <ul className="list-none p-0">
        {list.map((x) => {
          const out = system?.links.find((l) => l.name === x.id);
          const label = out?.label ?? x.kind ?? "joint";
          return (
            <Row
              key={x.id}
              label={label}
              open={open === x.id}
              toggle={() => setOpen(open === x.id ? null : x.id)}
              main={
                <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
                  <div className="min-w-52 flex-1">
                    <b>{label}</b>
                    <div className="text-soft">
                      {named(x.a)} {x.kind === "check-valve" ? "→" : "to"} {named(x.b)}
                      {out?.valve && x.open === false && <>; to open it: {out.opened}</>}
                      {x.kind === "check-valve" && out && <>; {out.opened}</>}
                    </div>
                  </div>
                  {out?.valve && (
                    <button
                      type="button"
                      role="switch"
                      aria-checked={x.open !== false}
                      aria-label={`${label}, ${named(x.a)} to ${named(x.b)}`}
                      onClick={() => change(x.id, { open: x.open === false })}
                      className={`casual flex min-h-12 w-28 items-center justify-center gap-2 rounded-[5px] border-2 font-bold ${x.open !== false ? "border-green text-green" : "border-stop text-stop"}`}
                    >
                      <span aria-hidden className={`rounded-full ${x.open !== false ? "h-[5px] w-5 bg-green" : "h-5 w-[5px] bg-stop"}`} />
                      {x.open !== false ? "open" : "closed"}
                    </button>
                  )}
                </div>
              }
            >
              <TextField label="Name" value={x.name ?? ""} onChange={(v) => change(x.id, { name: v }, "typing")} />
              <SelectField label="Kind" value={x.kind ?? "joint"} options={cat.link_kinds} onChange={(v) => change(x.id, { kind: v })} />
              {x.kind === "service-valve" && (
                <Segments
                  label="It is turned by"
                  value={x.stem ?? "hex-key"}
                  options={[
                    { value: "hex-key", label: "a hex key" },
                    { value: "stem", label: "its square stem" },
                  ]}
                  onChange={(v) => change(x.id, { stem: v })}
                />
              )}
              <NumberField label="Bore, if known" unit="mm" optional min={0.3} max={150} value={x.bore_mm} onChange={(v) => change(x.id, { bore_mm: v }, "typing")} />
              <SelectField label={x.kind === "check-valve" ? "Passes from" : "From"} value={x.a} options={sections} onChange={(v) => change(x.id, { a: v })} />
              <SelectField label="To" value={x.b} options={sections} onChange={(v) => change(x.id, { b: v })} />
              <TextField label="How it is opened here" value={x.note ?? ""} onChange={(v) => change(x.id, { note: v }, "typing")} />
              <Button kind="stop" className="flex items-center justify-center gap-2" onClick={() => set({ links: list.filter((y) => y.id !== x.id) }, "once")}>
                <Trash2 size={18} aria-hidden /> Remove
              </Button>
            </Row>
          );
        })}
      </ul>
      {sections.length > 1 && (
        <Button
          className="mt-2 flex items-center gap-2"
          onClick={() => {
            const id = freshId(list, "link");
            set({ links: [...list, { id, kind: "joint", a: sections[0]!.value, b: sections[1]!.value, open: true } as Link] }, "once");
            setOpen(id);
          }}
        >
          <Plus size={18} aria-hidden /> A link
        </Button>
      )}
    </>
  );
}

/** Service ports: where, of which size, with a core or not. */
export function Ports({ scope, set, cat }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const list = scope.ports ?? [];
  const sections = (scope.sections ?? []).map((s) => ({ value: s.id, label: s.name || s.id }));
  const change = (id: string, fields: Partial<Port>, at: "once" | "typing" = "once") => set({ ports: list.map((p) => (p.id === id ? { ...p, ...fields } : p)) }, at);
  return (
    <>
      <ul className="list-none p-0">
        {list.map((p) => (
          <Row
            key={p.id}
            label={p.name || p.id}
            open={open === p.id}
            toggle={() => setOpen(open === p.id ? null : p.id)}
            main={
              <div className="flex flex-wrap items-center gap-3">
                <b className="min-w-32 flex-1">{p.name || p.id}</b>
                <span className="text-soft">
                  {p.size ?? "1/4 in"}, on {sections.find((s) => s.value === p.section)?.label}
                  {p.core === false ? ", no core" : ""}
                </span>
                {p.cramped && <Tag tone="caution">cramped</Tag>}
              </div>
            }
          >
            <TextField label="Name" value={p.name ?? ""} onChange={(v) => change(p.id, { name: v }, "typing")} />
            <SelectField label="On" value={p.section} options={sections} onChange={(v) => change(p.id, { section: v })} />
            <SelectField label="Side" value={p.side ?? "suction"} options={SIDES} onChange={(v) => change(p.id, { side: v })} />
            <SelectField label="Size" value={p.size ?? "1/4 in"} options={opts(cat.port_sizes)} onChange={(v) => change(p.id, { size: v })} />
            <Segments label="Has a valve core" value={p.core === false ? "no" : "yes"} options={yesNo} onChange={(v) => change(p.id, { core: v === "yes" })} />
            <Segments label="Cramped" value={p.cramped ? "yes" : "no"} options={yesNo} onChange={(v) => change(p.id, { cramped: v === "yes" })} />
            <Button kind="stop" className="flex items-center justify-center gap-2" onClick={() => set({ ports: list.filter((y) => y.id !== p.id) }, "once")}>
              <Trash2 size={18} aria-hidden /> Remove
            </Button>
          </Row>
        ))}
      </ul>
      {sections[0] && (
        <Button
          className="mt-2 flex items-center gap-2"
          onClick={() => {
            const id = freshId(list, "port");
            set({ ports: [...list, { id, name: "", section: sections[0]!.value, side: "other", size: "1/4 in", core: true } as Port] }, "once");
            setOpen(id);
          }}
        >
          <Plus size={18} aria-hidden /> A port
        </Button>
      )}
    </>
  );
}
