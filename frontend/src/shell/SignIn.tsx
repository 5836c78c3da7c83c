import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ApiError, post, type SessionOut } from "../api/client";
import { takeSession } from "../api/session";
import { sendDrafts } from "../lib/drafts";
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
    post<SessionOut>("/session", { passphrase: text })
      .then(
        async (s) => {
          takeSession(s);
          await sendDrafts();
          client.setQueryData(["session"], s);
          void client.invalidateQueries();
        },
        (e: unknown) => setFault(e instanceof ApiError ? e.problem.detail : "It did not work."),
      )
      .finally(() => setBusy(false));
  };
  return (
    <main className="mx-auto mt-[12vh] max-w-md px-3">
      <h1 className="casual mb-4 text-center text-[34px] font-extrabold italic">Rough Draw</h1>
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
              autoFocus
              value={text}
              onChange={(e) => setText(e.target.value)}
              className="min-h-12 w-full rounded-[5px] border-2 border-strong bg-sheet px-3"
            />
          </label>
          {fault && <Fault title="Not in" detail={fault} />}
          <Button kind="solid" type="submit" disabled={busy || text === ""}>
            Come in
          </Button>
        </form>
      </Sheet>
      <p className="mt-3 text-soft">Whoever runs the server has set it, with <code className="figure">rough-draw passphrase</code>. Nothing is shown without it.</p>
    </main>
  );
}
