import { expect, test } from "vitest";
import type { Schema } from "../src/api/client";
import type { Plan, Standing } from "../src/api/floor";
import { collects, dueWords, everyWords, lateOf, missedWords, toldWords } from "../src/screens/floor/words";
import { foundIn, isRestless, type Watched, worry } from "../src/screens/wall/groups";

type Due = Schema["Due"];

const MINUTE = 60_000;
const NOON = new Date("2026-05-04T12:00:00").getTime();
const due = (part: Partial<Due>): Due => ({ late: false, missed: 0, of: 0, by_shift: [], ...part });

test("what is due by the clock is said with the time that is left", () => {
  const at = (minutes: number, late = false) => dueWords(due({ at: NOON + minutes * MINUTE, late }), NOON);
  expect(at(4)).toBe("due 12:04, in 4 min");
  expect(at(89)).toBe("due 13:29, in 89 min");
  expect(at(90)).toBe("due 13:30");
  expect(at(0)).toBe("due since 12:00");
  expect(at(-9)).toBe("due since 11:51");
  expect(at(-15, true)).toBe("late, due at 11:45");
});

test("what is due by pieces is said in pieces, one or many", () => {
  const left = (pieces: number, late = false) => dueWords(due({ left: pieces, late }), NOON);
  expect([left(12), left(1), left(0)]).toEqual(["due in 12 pieces", "due in 1 piece", "due now"]);
  expect([left(-1), left(-4), left(-6, true)]).toEqual(["due since 1 piece", "due since 4 pieces", "late by 6 pieces"]);
  expect(left(1200)).toBe("due in 1,200 pieces");
});

test("missed ones are counted in words of their own, and none is nothing", () => {
  expect(missedWords(due({ at: NOON, missed: 0, of: 5 }))).toBe("");
  expect(missedWords(due({ at: NOON, missed: 1, of: 1 }))).toBe("1 of 1 due time missed");
  expect(missedWords(due({ at: NOON, missed: 3, of: 24 }))).toBe("3 of 24 due times missed");
  expect(missedWords(due({ left: 3, missed: 1, of: 1 }))).toBe("1 of 1 due entry missed");
  expect(missedWords(due({ left: 3, missed: 2, of: 8 }))).toBe("2 of 8 due entries missed");
});

test("late stations are counted over all plans; those that are closed or never due are not", () => {
  const plan = (...of: (Due | null)[]) => ({ due: of }) as unknown as Standing;
  const late = due({ at: NOON, late: true });
  expect(lateOf([])).toBe(0);
  expect(lateOf([plan(late, null, due({ at: NOON })), plan(null), plan(late)])).toBe(2);
});

test("a plan is named by what it collects and how often", () => {
  const plan = (part: Partial<Plan>) =>
    collects({
      plan: {
        pieces: 1,
        measurements: [],
        counts: { inspected: null, defectives: null, defects: [] },
        every: null,
        ...part,
      },
    } as unknown as Standing["plan"]);
  const measured = ["thickness", "haze"].map((column) => ({ column, channel: null }));
  expect(plan({ measurements: measured })).toBe("thickness, haze");
  expect(plan({ measurements: measured, pieces: 5 })).toBe("thickness, haze of 5 pieces");
  const every = { minutes: 0, pieces: 50, late_after: 5 };
  const counts = { inspected: "boards", defectives: null, defects: ["void", "bridge"] };
  expect(plan({ counts, every })).toBe("boards, void, bridge, every 50 pieces");
  const often = (minutes: number, pieces = 0) => everyWords({ minutes, pieces, late_after: 1 });
  expect([often(60), often(120), often(90), often(0, 1), often(0, 50)]).toEqual([
    "every hour",
    "every 2 hours",
    "every 90 min",
    "every piece",
    "every 50 pieces",
  ]);
});

test("who was told is said with how often, and why somebody could not be", () => {
  const told = (part: Partial<Schema["Told"]>) =>
    toldWords({ address: "mara@fennel-hollow.test", tried_at: NOON, times: 1, failed: 0, ...part });
  expect(told({})).toMatch(/^mara@fennel-hollow.test was told at .*12:00$/);
  expect(told({ times: 3 })).toMatch(/^mara@fennel-hollow.test was told 3 times, last at .*12:00$/);
  // It was told before and cannot be now: the newest counts.
  expect(told({ times: 3, failed: 1, problem: "no route" })).toMatch(/could not be told at .*12:00: no route$/);
});

test("what cannot be answered comes first on the Wall, what has no value yet last, and only the first wants a look", () => {
  const entry = (part: object) => ({ dataset: "D", column: { name: "flux" }, ...part }) as unknown as Watched;
  const steady = entry({ dial: { steady: true, signals: 0, ppk: 1.4 } });
  const poor = entry({ dial: { steady: true, signals: 0, ppk: 0.7 } });
  const counted = entry({ dial: { steady: true, signals: 0, ppk: null } });
  const restless = entry({ dial: { steady: false, signals: 1, ppk: 2 } });
  const wrong = entry({ dial: null, problem: "the column is gone" });
  const empty = entry({ dial: null, problem: null });
  const all = [empty, counted, steady, poor, restless, wrong];
  const sorted = [...all].sort((a, b) => worry(b) - worry(a));
  expect(sorted).toEqual([wrong, restless, poor, steady, counted, empty]);
  expect(all.filter(isRestless)).toEqual([restless, wrong]);
  expect(foundIn(all, " FLUX  d ", isRestless)).toEqual([restless, wrong]);
  expect(foundIn(all, "flux y", () => true)).toEqual([]);
});
