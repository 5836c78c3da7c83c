import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { PersonOut } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh } from "../api/options";
import { forget, useSession } from "../api/session";
import { Firm } from "../kit/Firm";
import { Button } from "../ui/Button";
import { TextField } from "../ui/Field";
import { useUnits } from "../lib/units";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { useTitle } from "../lib/title";

/** Who works here, with their licence; who is at this browser, and so whose units and whose name on a new job. */
export function People() {
  useTitle("People");
  const client = useQueryClient();
  const session = useSession();
  const people = useQuery(options.people());
  const [name, setName] = useState("");
  const u = useUnits();
  const [licence, setLicence] = useState("");
  const again = () => refresh(client, ["people", "session", "settings", "practice"]);
  const add = useMutation({
    mutationFn: () => commands.addPerson(name, licence),
    onSuccess: () => {
      setName("");
      setLicence("");
      again();
    },
  });
  const here = useMutation({ mutationFn: (id: number) => commands.isHere(id), onSuccess: again });
  const now = session.data?.person;
  return (
    <div className="mx-auto grid max-w-3xl gap-3">
      <header>
        <h1 className="text-title">People</h1>
        <p className="text-soft">Each reads in their own units; their name and {u.spelled("license")} stand on the jobs they open.</p>
      </header>
      <Sheet strong>
        <p className="text-soft">At this browser</p>
        <div className="flex flex-wrap items-center justify-between gap-3">
          <p className="casual text-heading font-extrabold">{now ? now.name : "Nobody in particular"}</p>
          {now && <Button onClick={() => here.mutate(0)}>Not me</Button>}
        </div>
        {session.data?.needed && (
          <Button
            className="mt-3"
            onClick={() =>
              void commands.signOut().then(async () => {
                client.clear();
                await forget();
                window.location.assign("/");
              })
            }
          >
            Sign out of this browser
          </Button>
        )}
      </Sheet>
      {people.data && people.data.length > 0 && (
        <Sheet title="Who works here">
          <ul className="list-none p-0">
            {people.data.map((p) => (
              <Person key={p.id} person={p} isHere={now?.id === p.id} onHere={() => here.mutate(p.id)} onChanged={again} />
            ))}
          </ul>
        </Sheet>
      )}
      <Sheet title="Somebody new">
        <form
          className="grid gap-3 sm:grid-cols-[1fr_1fr_auto] sm:items-end"
          onSubmit={(e) => {
            e.preventDefault();
            add.mutate();
          }}
        >
          <TextField label="Name" value={name} onChange={setName} />
          <TextField label={u.spelled("License")} value={licence} onChange={setLicence} />
          <Button type="submit" kind="solid" disabled={!name.trim() || add.isPending}>
            Add
          </Button>
        </form>
        {add.error && <Fault title="Not added" detail={add.error.message} />}
      </Sheet>
      <Firm />
    </div>
  );
}

function Person({ person, isHere, onHere, onChanged }: { person: PersonOut; isHere: boolean; onHere: () => void; onChanged: () => void }) {
  const u = useUnits();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(person.name);
  const [licence, setLicence] = useState(person.licence);
  const save = () => commands.savePerson(person.id, name, licence).then(() => (setOpen(false), onChanged()));
  return (
    <li className="border-b border-rule py-2 last:border-b-0">
      <div className="flex flex-wrap items-center gap-3">
        <span className="min-w-0 flex-1">
          <b>{person.name}</b> <span className="text-soft">{person.licence}</span>
        </span>
        {isHere ? <Tag tone="pass">here</Tag> : <Button onClick={onHere}>That is me</Button>}
        <Button kind="quiet" aria-expanded={open} aria-label={`Change ${person.name}`} onClick={() => setOpen((o) => !o)}>
          Change
        </Button>
      </div>
      {open && (
        <div className="mt-2 grid gap-3 sm:grid-cols-2">
          <TextField label="Name" value={name} onChange={setName} />
          <TextField label={u.spelled("License")} value={licence} onChange={setLicence} />
          <Button kind="solid" disabled={!name.trim()} onClick={save}>
            Save
          </Button>
          <Button kind="stop" onClick={() => commands.dropPerson(person.id).then(onChanged)}>
            Remove
          </Button>
        </div>
      )}
    </li>
  );
}
