import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { commands } from "../api/commands";
import { options } from "../api/options";
import { useTitle } from "../lib/title";
import { AS_IT_STANDS, isWhole, ofTheVan, OWN, RigSlots } from "../practice/RigSlots";
import { FIRST, useSheet } from "../practice/sheets";
import { hiddenOf, NOTHING_WRONG, Wrong } from "../practice/Wrong";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Fault, Sheet } from "../ui/Sheet";

/** One's own system and rig to try things out on: nothing is hidden, anything can be wrong, and nothing counts. */
export function PracticeSandbox() {
  useTitle("Sandbox");
  const navigate = useNavigate();
  const [from, setFrom] = useState(FIRST);
  const [wrong, setWrong] = useState(NOTHING_WRONG);
  const [chosen, setChosen] = useState(OWN);
  const { sources, sheet, possible } = useSheet(from);
  const rigs = useQuery(options.rigsFor(from, sheet.data));
  const begin = useMutation({
    mutationFn: () => commands.sandbox(sheet.data!, hiddenOf(wrong, Math.floor(Math.random() * 1e6)), ofTheVan(chosen)),
    onSuccess: (run) => navigate(`/practice/${run.key}`),
  });
  const ready = sheet.data !== undefined && isWhole(rigs.data, chosen);
  return (
    <div className="mx-auto grid max-w-4xl gap-3">
      <header className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h1 className="text-heading">Sandbox</h1>
        <Link to="/practice" className="underline">
          Practice
        </Link>
      </header>
      <p className="text-soft">Anything can be put wrong, before it begins and while it runs; what is so stands beside what is read. It counts for nothing.</p>
      <div className="grid items-start gap-3 md:grid-cols-2">
        <Sheet title="System and rig">
          <div className="grid gap-3">
            <SelectField
              label="System from"
              value={from}
              onChange={(v) => {
                setFrom(v);
                setWrong(NOTHING_WRONG);
                setChosen(OWN);
              }}
              options={sources}
            />
            <RigSlots rigs={rigs.data} chosen={chosen} more={[AS_IT_STANDS]} onChange={setChosen} />
          </div>
        </Sheet>
        <Sheet title="To begin with">
          {possible.error && <Fault title="Nothing can be wrong with this sheet" detail={possible.error.message} />}
          <Wrong possible={possible.data} wrong={wrong} onChange={setWrong} asFound />
        </Sheet>
      </div>
      {begin.error && <Fault title="It cannot be begun" detail={begin.error.message} />}
      <Button kind="solid" disabled={!ready || begin.isPending} onClick={() => begin.mutate()}>
        {begin.isPending ? "Setting it up…" : "Begin"}
      </Button>
    </div>
  );
}
