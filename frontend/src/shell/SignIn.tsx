import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options } from "../api/options";
import { takeSession } from "../api/session";
import { settle } from "../api/settle";
import { sendDrafts } from "../lib/drafts";
import { focused } from "../lib/focus";
import { Button } from "../ui/Button";
import { Fault, Sheet } from "../ui/Sheet";

/** The door, where a passphrase is needed. */
export function SignIn() {
  const client = useQueryClient();
  const [text, setText] = useState("");
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState("");
  const enter = () => {
    setBusy(true);
    commands
      .signIn(text)
      .then(
        async (s) => {
          takeSession(s);
          await sendDrafts();
          settle(client, options.session(takeSession), s);
          void client.invalidateQueries();
        },
        (e: unknown) => setFault(e instanceof ApiError ? e.problem.detail : "It did not work."),
      )
      .finally(() => setBusy(false));
  };
  return (
    <main className="mx-auto mt-[12vh] max-w-md px-3">
      <h1 className="casual mb-4 text-center text-figure font-extrabold italic">Rough Draw</h1>
      <Sheet title="Sign in" strong>
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            enter();
          }}
        >
          <label>
            <span className="mb-1 block text-soft">Passphrase of this server</span>
            <input
              type="password"
              autoComplete="current-password"
              ref={focused}
              value={text}
              onChange={(e) => setText(e.target.value)}
              className="min-h-12 w-full rounded-[5px] border-2 border-strong bg-sheet px-3"
            />
          </label>
          {fault && <Fault title="Not in" detail={fault} />}
          <Button kind="solid" type="submit" disabled={busy || text === ""}>
            Sign in
          </Button>
        </form>
      </Sheet>
      <p className="mt-3 text-soft">Whoever runs the server has set it, with <code className="figure">rough-draw passphrase</code>. Nothing is shown without it.</p>
    </main>
  );
}
