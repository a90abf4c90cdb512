import { expect, test } from "vitest";
import { touchedBy } from "../src/api/live";
import type { Study } from "../src/api/queries";
import { newest } from "../src/api/saving";
import { changeOf, draftsOf, forgetDraft, isUntouched, keepDraft } from "../src/screens/study/drafts";

/** A browser's storage. */
function storage() {
  const kept = new Map<string, string>();
  return {
    get length() {
      return kept.size;
    },
    key: (at: number) => [...kept.keys()][at] ?? null,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
}

const spec = (options: Record<string, unknown>) => ({ method: "control-chart", roles: {}, options }) as Study["spec"];
const study = (part: Partial<Study> = {}): Study =>
  ({ id: 7, revision: 3, spec: spec({}), shown: {}, last_change: null, ...part }) as Study;
const set = (id: string, options: Record<string, unknown>) => ({
  id,
  spec: (now: Study["spec"]) => ({ ...now, options: { ...now.options, ...options } }),
});

test("what waits while a page is closed is kept whole, and is one's own only while nobody else changed the study", () => {
  const kept = storage();
  // One that was sent alone arrives by itself.
  keepDraft(study(), [set("a", { chart: "xbar-r" })], kept);
  expect(draftsOf(7, kept)).toEqual([]);
  keepDraft(study(), [set("a", { chart: "xbar-r" }), set("b", { size: 5 })], kept);
  keepDraft(study({ id: 70 }), [set("c", {}), set("d", {})], kept);
  const [draft, ...others] = draftsOf(7, kept);
  if (!draft) throw new Error("nothing was kept");
  expect(others).toEqual([]);
  expect(changeOf(draft).spec?.(spec({}))).toEqual(spec({ chart: "xbar-r", size: 5 }));
  // The first has not arrived, or has; a colleague's change at the same revision is another.
  expect(isUntouched(draft, study())).toBe(true);
  expect(isUntouched(draft, study({ revision: 4, last_change: "a" }))).toBe(true);
  expect(isUntouched(draft, study({ revision: 4, last_change: "z" }))).toBe(false);
  expect(isUntouched(draft, study({ revision: 5, last_change: null }))).toBe(false);
  forgetDraft(draft, kept);
  expect(draftsOf(7, kept)).toEqual([]);
  expect(draftsOf(70, kept)).toHaveLength(1);
});

test("an answer that was overtaken takes nothing back", () => {
  const known = { revision: 4, name: "new" };
  expect(newest(known, { revision: 3, name: "old" })).toBe(known);
  // Of one revision the later answer counts: a column of the statement may be called otherwise by now.
  expect(newest(known, { revision: 4, name: "renamed" })).toEqual({ revision: 4, name: "renamed" });
  expect(newest(undefined, { revision: 1 })).toEqual({ revision: 1 });
});

test("an event reads anew what shows something of it, and nothing that is at hand already", () => {
  const query = (queryKey: unknown[], data?: unknown) => ({ queryKey, state: { data } }) as never;
  const dataset = touchedBy([{ kind: "dataset", id: 2, revision: 9 }]);
  expect(dataset(query(["dataset", 2], { revision: 8 }))).toBe(true);
  expect(dataset(query(["dataset", 2], { revision: 9 }))).toBe(false);
  expect(dataset(query(["dataset", 3], { revision: 8 }))).toBe(false);
  expect(["datasets", "wall", "study", "gauges"].map((key) => dataset(query([key])))).toEqual([true, true, true, true]);
  expect(["jobs", "methods", "rows"].some((key) => dataset(query([key, 2])))).toBe(false);
  const study = touchedBy([{ kind: "study", id: 2, revision: 5 }]);
  expect(study(query(["study", 2], { revision: 5 }))).toBe(false);
  expect(study(query(["dataset", 2], { revision: 1 }))).toBe(false);
  expect(study(query(["studies"]))).toBe(true);
  expect(touchedBy([{ kind: "gauges" }])(query(["outcome", 1]))).toBe(true);
});
