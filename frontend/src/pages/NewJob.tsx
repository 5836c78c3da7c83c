import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { useNavigate } from "react-router";

import type { ProposalOut } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh } from "../api/options";
import { useCatalogue, useOwnTemplates } from "../api/queries";
import { asked, keepAnswers, keptAnswers, type Answers } from "../lib/newJob";
import { useTitle } from "../lib/title";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** A new job by a few answers: the rest is proposed. Nothing is stored until it is opened. */
export function NewJob() {
  useTitle("New job");
  const { data: cat } = useCatalogue();
  const own = useOwnTemplates();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [now, setNow] = useState<Answers>(keptAnswers);
  const set = (change: Partial<Answers>) => {
    const next = { ...now, ...change };
    setNow(next);
    keepAnswers(next);
  };
  const proposal = useQuery({ ...options.proposal(asked(now)), placeholderData: keepPreviousData });
  const open = useMutation({
    mutationFn: async () => {
      // What stands on the page may be of the answers before: the job is made of these.
      const { job } = await client.fetchQuery(options.proposal(asked(now)));
      const { customer, site, unit } = now;
      return commands.createJob({ ...job, party: { ...job.party, customer: customer.trim(), site: site.trim(), unit: unit.trim() } });
    },
    onSuccess: (made) => {
      keepAnswers(null);
      refresh(client, ["yard"]);
      void navigate(`/jobs/${made.key}/scope`, { replace: true });
    },
  });
  if (!cat) return <Waits className="p-6">Fetching the lists…</Waits>;
  const named = now.customer.trim() !== "" || now.unit.trim() !== "";
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (named && !open.isPending) open.mutate();
  };
  const usual = proposal.data?.job.scope?.refrigerant;
  return (
    <form onSubmit={submit} className="mx-auto grid max-w-2xl gap-4">
      <header>
        <h1 className="text-title">New job</h1>
        <p className="text-soft">A few answers; the rest is proposed and can be changed. Nothing is kept until the job is opened.</p>
      </header>
      <Sheet>
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField label="Customer" value={now.customer} onChange={(customer) => set({ customer })} />
          <TextField label="Unit" value={now.unit} onChange={(unit) => set({ unit })} />
          <SelectField
            label="System"
            value={now.system}
            options={[...cat.templates, ...(own.data ?? []).map((t) => ({ value: `own-${t.id}`, label: t.name, note: "your own" }))]}
            onChange={(system) => set({ system })}
          />
          <SelectField
            label="Refrigerant"
            value={now.refrigerant || "usual"}
            options={[{ value: "usual", label: usual && !now.refrigerant ? usual : "as usual", note: "as usual for this system" }, ...cat.refrigerants]}
            onChange={(v) => set({ refrigerant: v === "usual" ? "" : v })}
          />
          <div className="sm:col-span-2">
            <SelectField label="Why it was open" value={now.condition} options={cat.conditions} onChange={(condition) => set({ condition: condition as Answers["condition"] })} />
          </div>
        </div>
      </Sheet>
      <Sheet title="Proposed">
        {proposal.error ? <Fault title="Nothing can be proposed" detail={proposal.error.message} /> : proposal.data ? <Proposed found={proposal.data} /> : <Waits>Looking in the van…</Waits>}
      </Sheet>
      {open.error && <Fault title="The job is not opened" detail={open.error.message} />}
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" kind="solid" disabled={!named || open.isPending || !!proposal.error}>
          Open the job
        </Button>
        {!named && <p className="text-soft">Wants a customer or a unit.</p>}
        <Button
          kind="quiet"
          className="ml-auto font-normal"
          onClick={() => {
            keepAnswers(null);
            void navigate("/");
          }}
        >
          Leave it
        </Button>
      </div>
    </form>
  );
}

function Proposed({ found }: { found: ProposalOut }) {
  const rows = [
    { what: "Setup", name: found.setup, why: found.setup_why },
    { what: "Standard", name: found.standard, why: found.standard_why },
  ];
  return (
    <dl className="grid gap-2">
      {rows.map((r) => (
        <div key={r.what} className="grid gap-x-4 sm:grid-cols-[100px_minmax(0,1fr)]">
          <dt className="text-soft">{r.what}</dt>
          <dd>
            <b>{r.name}</b>
            <span className="block text-note text-soft">{r.why}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}
