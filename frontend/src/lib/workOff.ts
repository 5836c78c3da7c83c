import { commands } from "../api/commands";
import { setCsrf } from "../api/client";
import { refresh } from "./kept";
import { alone, deliver, inLine, LINE, nextOf, rewrite, withOne, without } from "./line";

/**
 * Send what waits in the line without a page. Rejects where the server is still out of reach, so that the browser tries
 * again; what the server refuses stays, with its reason, for the next page to show.
 */
export async function workOff(): Promise<void> {
  let left = false;
  await alone(async () => {
    await refresh(LINE);
    if (!nextOf(inLine())) return;
    const session = await commands.session();
    if (!session.inside) return;
    setCsrf(session.csrf);
    for (let next = nextOf(inLine()); next && !left; next = nextOf(inLine())) {
      const { id } = next;
      const outcome = await deliver(next);
      if (outcome === "taken") await rewrite(without(id));
      else if (outcome === "later") left = true;
      else await rewrite(withOne(id, { refused: outcome.problem.detail }));
    }
  });
  if (left) throw new Error("the server is out of reach");
}
