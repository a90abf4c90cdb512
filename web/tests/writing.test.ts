import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import type { Schema } from "../src/api/client";
import type { Spec } from "../src/api/queries";
import {
  chance,
  counted,
  fixed,
  grouped,
  percent,
  shareWords,
  shortTime,
  tableNumber,
  typedNumber,
  writer,
  writerOf,
} from "../src/lib/format";
import { rowAddress, stretches } from "../src/lib/row-ranges";
import { termFinder } from "../src/lib/terms";
import { arcEnds, dialGeometry } from "../src/marks/dial-layout";
import { checked, chosen, type Slot, withOptions, withSlot } from "../src/study/statement/words";

const format = (decimals: number, unit = "", factor = 1) => ({
  decimals,
  unit,
  factor,
  computed_decimals: decimals + 1,
});

test("numbers are written as the core writes them", () => {
  // The core's own tests read the same table.
  const file = new URL("../../crates/maths/tests/writing.json", import.meta.url);
  const all: { by: string; format?: Schema["ValueWriter"]; number: number; text: string }[] = JSON.parse(
    readFileSync(file, "utf8"),
  );
  expect(all.length).toBeGreaterThan(20);
  for (const { by, format, number, text } of all) {
    const own = format && writerOf(format);
    const writers: Record<string, ((value: number) => string) | undefined> = {
      value: own?.value,
      computed: own?.computed,
      signed: own?.signed,
      percent,
      chance,
      grouped,
    };
    expect(writers[by]?.(number), `${by} of ${number}`).toBe(text);
  }
});

test("numbers are written with true minus signs, their decimals and their unit", () => {
  expect(fixed(-1.25, 1)).toBe("−1.3");
  // No minus on what is shown as nothing.
  expect(fixed(-0.004, 2)).toBe("0.00");
  expect(fixed(2, 40)).toBe("2.000000000000");
  expect(grouped(1234567)).toBe("1,234,567");
  expect([0, 1, 2, 1000].map((n) => counted(n, "row", "rows"))).toEqual(["0 rows", "1 row", "2 rows", "1,000 rows"]);
  const shares = writer(1, "%", 100);
  expect([shares.value(0.0312), shares.computed(0.0312), shares.bare(0.5)]).toEqual(["3.1 %", "3.12 %", "50.0"]);
  expect(writer(2, null).value(-0.5)).toBe("−0.50");
});

test("a number of a table is never shown as none when it is not", () => {
  expect(tableNumber(0.0004, format(2, "mm"))).toBe("below 0.01 mm");
  expect(tableNumber(-0.0004, format(2))).toBe("above −0.01");
  expect(tableNumber(0, format(2, "mm"))).toBe("0 mm");
  expect(tableNumber(0.005, format(2))).toBe("0.01");
  expect(tableNumber(1234.4, format(0))).toBe("1,234");
  expect(tableNumber(-1234.6, format(0, "lm"))).toBe("−1,235 lm");
  expect(tableNumber(0.031, format(1, "%", 100))).toBe("3.1 %");
  expect(tableNumber(3e18, format(2))).toBe("3.00000e+18");
  expect(tableNumber(-2.5, null)).toBe("−2.5");
});

test("shares are written in percent, then in ppm, and never as 0 when some remain", () => {
  const cases: [number, string][] = [
    [0, "0"],
    [1e-12, "< 0.001 ppm"],
    [4.2e-7, "0.420 ppm"],
    [3.2e-5, "32.0 ppm"],
    [0.0044, "0.44 %"],
    [0.25, "25.0 %"],
    [1, "100.0 %"],
  ];
  for (const [share, words] of cases) expect(shareWords(share)).toBe(words);
});

test("what is typed is a number, nothing, or nonsense", () => {
  const cases: [string, number | null | undefined][] = [
    ["2.4", 2.4],
    ["2,4", 2.4],
    [" −3 ", -3],
    ["1e3", 1000],
    ["", null],
    ["   ", null],
    ["2.4 mm", undefined],
    ["1,2,3", undefined],
    ["Infinity", undefined],
    ["1e999", undefined],
  ];
  for (const [text, value] of cases) expect(typedNumber(text), text).toBe(value);
});

test("times are short, and other texts are left as they are", () => {
  expect(shortTime("2026-05-04 06:10")).toBe("4 May 06:10");
  expect(shortTime("2026-05-04 00:00")).toBe("4 May");
  expect(shortTime("2026-12-31 23:59", true)).toBe("31 Dec 2026 23:59");
  expect(shortTime("2026-99-04 06:10")).toBe("4 99 06:10");
  expect(shortTime("press 2")).toBe("press 2");
});

test("rows in an address are stretches, and more of them than it holds are not cut but named otherwise", () => {
  expect(rowAddress([])).toBeUndefined();
  expect(
    rowAddress([
      [3, 5],
      [9, 9],
    ]),
  ).toBe("3-5.9");
  const many = Array.from({ length: 401 }, (_, k) => [2 * k, 2 * k]);
  expect(rowAddress(many.slice(1))?.split(".")).toHaveLength(400);
  expect(rowAddress(many)).toBeUndefined();
  const set = stretches([[3, 5], [9]]);
  expect([set.count, set.first, set.has(4), set.has(6), set.has(9)]).toEqual([4, 3, true, false, true]);
  expect(stretches([])).toMatchObject({ count: 0, first: 0 });
});

test("the arc of a dial is the tolerance, and an open end mirrors the closed one", () => {
  expect(arcEnds({ lsl: 1, usl: 3 }, 9)).toEqual([1, 3]);
  expect(arcEnds({ usl: 10 }, 6)).toEqual([2, 10]);
  // What cannot be negative is not drawn below 0.
  expect(arcEnds({ usl: 10 }, 2)).toEqual([0, 10]);
  expect(arcEnds({ lsl: 4 }, 6)).toEqual([4, 8]);
  // A mean on the wrong side of its only limit still leaves an arc.
  for (const limits of [{ usl: 10 }, { lsl: 10 }])
    for (const mean of [-50, 0, 10, 500]) {
      const [low, high] = arcEnds(limits, mean) ?? [0, 0];
      expect(high).toBeGreaterThan(low);
    }
  expect(arcEnds({}, 5)).toBeNull();
});

test("needle, band and target of a dial stay on it and say what lies beyond", () => {
  const dial = (mean: number | null, sd_within: number | null) =>
    ({ of: "values", mean, sd_within }) as unknown as Parameters<typeof dialGeometry>[1];
  const limits = { lsl: 0, usl: 10, target: 5 };
  const centred = dialGeometry(limits, dial(5, 1));
  expect(centred).toMatchObject({ needle: 0.5, target: 0.5, outer: [0.2, 0.8], inner: [0.4, 0.6] });
  expect(centred).toMatchObject({ leftClosed: true, rightClosed: true, beyondLeft: false, beyondRight: false });
  expect(dialGeometry(limits, dial(9, 1))).toMatchObject({ outer: [0.6, 1], beyondRight: true, beyondLeft: false });
  // Far outside the needle rests just past the end instead of going round.
  expect(dialGeometry(limits, dial(900, 1))?.needle).toBe(1.04);
  expect(dialGeometry(limits, dial(-900, null))).toMatchObject({ needle: -0.04, outer: null, inner: null });
  expect(dialGeometry(limits, dial(null, 1))).toBeNull();
  expect(dialGeometry({ usl: 10 }, dial(5, 1))).toMatchObject({ leftClosed: false, beyondLeft: false });
});

const slot = (name: string, kind: string, more: object = {}) =>
  ({ name, at: name, label: name, kind, shows: [], quiet: false, ...more }) as unknown as Slot;
const spec = (roles: object, options: object = {}) => ({ method: "m", roles, options }) as unknown as Spec;

test("a change keeps the rest and empties with null", () => {
  const before = spec({ measure: "a" }, { width: 2, chart: "xbar-r" });
  const after = withSlot(before, slot("width", "number"), 4);
  expect(after).toMatchObject({ roles: { measure: "a" }, options: { width: 4, chart: "xbar-r" } });
  expect(before.options).toMatchObject({ width: 2 });
  expect(withSlot(after, slot("measure", "column"), null).roles).toEqual({});
  expect(withOptions(after, { width: null, omit: [1] }).options).toEqual({ chart: "xbar-r", omit: [1] });
});

test("an editor starts from what is set: the choice that the core says holds, and the items that are offered", () => {
  const choice = (value: string, ...fields: string[]) => ({
    value,
    words: value,
    fields: fields.map((name) => ({ name })),
  });
  const limits = slot("limits", "choice", {
    tag: "from",
    choices: [choice("data"), choice("known", "center", "set_by")],
  });
  const read = chosen(limits as never, spec({}, { limits: { from: "known", center: 2, odd: [1] } }), "known");
  expect([read.choice.value, read.fields]).toEqual(["known", { center: 2 }]);
  const items = [
    { value: "beyond", default_on: true },
    { value: "trend", default_on: false },
  ];
  const patterns = slot("patterns", "checklist", { tag: "pattern", items });
  expect([...checked(patterns as never, spec({}))]).toEqual([["beyond", undefined]]);
  const own = spec({}, { patterns: [{ pattern: "trend", length: 7 }, { pattern: "gone" }] });
  expect([...checked(patterns as never, own)]).toEqual([["trend", 7]]);
});

test("terms are found as whole words, the longest first, once in a text, and more of them in heads", () => {
  const entry = (name: string, forms: string[], heads: string[] = []) => ({
    name,
    forms,
    heads,
    meaning: "",
    formula: "",
    source: "",
  });
  const entries = [
    entry("Range", ["range"]),
    entry("Moving range", ["moving range"]),
    entry("Cp", ["Cp"]),
    entry("p-value", ["p ="], ["p"]),
  ];
  const found = (text: string, inHeads = false) =>
    termFinder(
      entries,
      inHeads,
    )(text)
      .filter((part) => part.entry)
      .map((part) => `${part.text}: ${part.entry?.name}`);
  expect(found("The Moving range and the range; ranges, arrange, a range again")).toEqual([
    "Moving range: Moving range",
    "range: Range",
  ]);
  expect(found("Cp (p = 0.03), not CP or Cpk")).toEqual(["Cp: Cp", "p =: p-value"]);
  expect([found("p of a shape"), found("p of a shape", true)]).toEqual([[], ["p: p-value"]]);
  const parts = termFinder(entries, false)("The range.");
  expect(parts.map((part) => part.text).join("")).toBe("The range.");
});
