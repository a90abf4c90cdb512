import { expect, test } from "vitest";
import { touchedBy } from "../src/api/live";

const query = (key: readonly unknown[], data?: unknown) => ({ queryKey: key, state: { data } as never });

test("what shows a change is read anew, and what has it already is not", () => {
  const floor = touchedBy([{ kind: "floor" }]);
  for (const key of [["floor"], ["plan", 1], ["entries", 1], ["wall"]])
    expect(floor(query(key)), key.join()).toBe(true);
  expect(floor(query(["study", 1]))).toBe(false);
  for (const kind of ["views", "jobs"] as const) {
    const event = kind === "views" ? { kind, dataset_id: 2 } : { kind };
    expect(touchedBy([event])(query([kind, 2])), kind).toBe(true);
  }
  const study = touchedBy([{ kind: "study", id: 3, revision: 5 }]);
  expect(study(query(["study", 3], { revision: 5 }))).toBe(false);
  expect(study(query(["study", 3], { revision: 4 }))).toBe(true);
  expect(study(query(["study", 4], { revision: 4 }))).toBe(false);
  expect(study(query(["studies"]))).toBe(true);
  expect(touchedBy([{ kind: "gauges" }])(query(["outcome", 1]))).toBe(true);
});
