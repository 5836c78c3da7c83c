import { QueryClient, QueryObserver, queryOptions } from "@tanstack/react-query";
import { expect, test } from "vitest";

import { settle } from "./settle";

/** A query whose answers are given by hand, in whatever order. */
function byHand() {
  const client = new QueryClient();
  const answers: ((n: number) => void)[] = [];
  const query = queryOptions({ queryKey: ["run", "quay"], queryFn: () => new Promise<number>((done) => answers.push(done)) });
  const off = new QueryObserver(client, query).subscribe(() => undefined);
  const shown = () => client.getQueryData(query.queryKey);
  const passes = () => new Promise((done) => setTimeout(done, 5));
  return { client, query, answers, shown, passes, off };
}

test("an answer that was asked for before a command and comes after it does not bring back what was", async () => {
  const { client, query, answers, shown, passes, off } = byHand();
  answers[0]!(1);
  await passes();
  void client.invalidateQueries();
  settle(client, query, 2);
  answers[1]!(1);
  await passes();
  expect(shown()).toBe(2);
  // What is asked for after it is taken.
  void client.invalidateQueries();
  answers[2]!(3);
  await passes();
  expect(shown()).toBe(3);
  off();
});

test("a command that answers before the first question does stands as the first answer", async () => {
  const { client, query, answers, shown, passes, off } = byHand();
  settle(client, query, 2);
  answers[0]!(1);
  await passes();
  expect(shown()).toBe(2);
  expect(client.getQueryState(query.queryKey)).toMatchObject({ status: "success", fetchStatus: "idle" });
  off();
});
