import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { commands } from "../api/commands";
import { options, refresh } from "../api/options";
import { useCatalogue, useKit } from "../api/queries";
import { useSaveSettings, useSettings, useUnits } from "../lib/units";
import { WholeSets } from "../shell/WholeSets";
import { Button } from "../ui/Button";
import { TextField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";

/** Where nothing is yet: who reads here and in which units, what is in the van, and where to begin. */
export function Welcome() {
  return (
    <div className="grid gap-4">
      <p>Nothing is here yet. Begin at once, or first say who you are and what is in your van.</p>
      <Sheet title="Begin">
        <div className="grid gap-3 sm:grid-cols-3">
          <Way to="/new" name="A real job" about="Customer, unit and system; the rest is proposed." />
          <Way to="/practice" name="A practice job" about="A made-up unit with a hidden fault: nothing can break." />
          <Way to="/quick" name="Read a hold test" about="Paste the table of a gauge, and see what it says." />
        </div>
        <p className="mt-3 text-soft">
          To look round in jobs that are under way, start the demo beside this: <code>rough-draw demo</code>. It keeps its own data.
        </p>
      </Sheet>
      <div className="grid items-start gap-4 md:grid-cols-2">
        <You />
        <Van />
      </div>
    </div>
  );
}

function Way({ to, name, about }: { to: string; name: string; about: string }) {
  return (
    <Link to={to} className="sheet block p-4 hover:bg-green-wash">
      <b className="casual text-lead">{name}</b>
      <span className="mt-1 block text-soft">{about}</span>
    </Link>
  );
}

function You() {
  const { data } = useSettings();
  const save = useSaveSettings();
  const client = useQueryClient();
  const u = useUnits();
  const [name, setName] = useState("");
  const people = useQuery(options.people());
  const add = useMutation({
    mutationFn: async () => commands.isHere((await commands.addPerson(name.trim(), "")).id),
    onSuccess: () => {
      setName("");
      refresh(client, ["people", "session", "settings"]);
    },
  });
  if (!data) return null;
  const here = people.data?.length ?? 0;
  return (
    <Sheet title="You">
      <div className="grid gap-3">
        <form
          className="flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (name.trim()) add.mutate();
          }}
        >
          <div className="min-w-0 flex-1">
            <TextField label="Your name" value={name} onChange={setName} />
          </div>
          <Button type="submit" disabled={!name.trim() || add.isPending}>
            That is me
          </Button>
        </form>
        {here > 0 && <p role="status">{people.data!.map((p) => p.name).join(", ")}: on the jobs you open. {u.spelled("License")} and the rest under People.</p>}
        {add.error && <Fault title="Not kept" detail={add.error.message} />}
        <WholeSets settings={data.settings} onChange={(settings) => save.mutate(settings)} />
      </div>
    </Sheet>
  );
}

/** A class of part to pick: its name on the list, and what the rig needs to know of it. */
interface Pick {
  kind: "pump" | "hose" | "tool" | "gauge";
  name: string;
  values: Record<string, string | number | boolean>;
}

function Van() {
  const { data: cat } = useCatalogue();
  const kit = useKit().data ?? [];
  const client = useQueryClient();
  const u = useUnits();
  const add = useMutation({ mutationFn: (p: Pick) => commands.addKit(p.kind, p.name, p.values), onSuccess: () => refresh(client, ["kit", "catalogue"]) });
  if (!cat) return null;
  const rows: { title: string; picks: Pick[] }[] = [
    { title: "Pump", picks: cat.pumps_cfm.map((cfm) => ({ kind: "pump", name: `${u.say("flow", (cfm * 0.3048 ** 3) / 60)} pump`, values: { plate_cfm: cfm } })) },
    { title: "Hoses", picks: cat.hose_sizes.map((size) => ({ kind: "hose", name: `${size} hose`, values: { size } })) },
    { title: "Core tools", picks: cat.tool_bores.map((bore) => ({ kind: "tool", name: `${bore} core tool`, values: { bore } })) },
    { title: "Gauge", picks: cat.gauges.map((g) => ({ kind: "gauge", name: g.label, values: { make: g.value } })) },
  ];
  return (
    <Sheet title="What is in your van" aside={kit.length > 0 ? `${kit.length} listed` : undefined}>
      <div className="grid gap-3">
        {rows.map((row) => (
          <fieldset key={row.title}>
            <legend className="mb-1 text-soft">{row.title}</legend>
            <div className="flex flex-wrap gap-2">
              {row.picks.map((p) => {
                const there = kit.filter((k) => k.kind === p.kind && k.name === p.name).length;
                return (
                  <Button key={p.name} className="font-normal" disabled={add.isPending} onClick={() => add.mutate(p)}>
                    {p.name}
                    {there > 0 && <b> × {there}</b>}
                  </Button>
                );
              })}
            </div>
          </fieldset>
        ))}
        {add.error && <Fault title="Not listed" detail={add.error.message} />}
        <p className="text-soft">Pressed twice it is there twice. Names, lengths and the rest are under Kit.</p>
      </div>
    </Sheet>
  );
}
