import { expect, test, vi } from "vitest";

import { change } from "./kept";
import { asked, BLANK, keepAnswers, keptAnswers } from "./newJob";

test("what was answered stands again after a reload, and nothing once the job is open", () => {
  keepAnswers({ ...BLANK, customer: "Quayside Blooms", condition: "flooded" });
  expect(keptAnswers()).toMatchObject({ customer: "Quayside Blooms", condition: "flooded", system: BLANK.system });
  keepAnswers(null);
  expect(keptAnswers()).toEqual(BLANK);
});

test.each(["{", null, [], { customer: 7, unit: "Room 2", more: "x" }])("a store that holds %j does no harm", async (kept) => {
  await change<unknown>("new-job", () => kept);
  const found = keptAnswers();
  expect(found.customer).toBe("");
  expect(Object.keys(found)).toEqual(Object.keys(BLANK));
});

test("a full store keeps nobody from going on", () => {
  const put = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  keepAnswers({ ...BLANK, unit: "Room 2" });
  expect(keptAnswers().unit).toBe("Room 2");
  put.mockRestore();
});

test("an own system goes by its number", () => {
  expect(asked({ ...BLANK, system: "own-12" })).toMatchObject({ own: 12 });
  expect(asked(BLANK)).toEqual({ template: "cooler", refrigerant: "", condition: "open-hours" });
});
