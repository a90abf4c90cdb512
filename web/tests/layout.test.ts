import { expect, test } from "vitest";
import type { Schema } from "../src/api/client";
import { roundWidth } from "../src/figures/distribution/layout";
import { fixed, shortTime, typedNumber } from "../src/lib/format";
import { arcEnds, dialGeometry } from "../src/marks/dial-layout";
import { type Numbers as Gauge, placeStaircase, stairPath } from "../src/marks/gauge/layout";
import { nearestPoint, type Scale, spreadLabels, stepPath } from "../src/marks/panel-layout";
import { columnsIn, foundIn, type GroupBy, groupsOf, type Order, type Watched } from "../src/screens/wall/groups";
import { headline as sinceHeadline, sinceWords } from "../src/screens/wall/since";

const dial: Schema["Dial"] = {
  of: "values",
  limits: {},
  mean: 2.4,
  sd_within: 0.01,
  recent: [],
  recent_signals: [],
  signals: 0,
  steady: true,
};

test("a dial leaves the side without a limit open and marks a band that reaches beyond", () => {
  expect(arcEnds({ usl: 2.5 }, 0.7)).toEqual([0, 2.5]); // a rate cannot be below zero
  expect(arcEnds({ lsl: 480 }, 512)).toEqual([480, 544]);
  expect(arcEnds({}, 5)).toBeNull();
  const both = dialGeometry({ lsl: 2.34, target: 2.4, usl: 2.46 }, dial);
  expect(both).toMatchObject({ leftClosed: true, rightClosed: true, beyondRight: false, beyondLeft: false });
  expect(both?.needle).toBeCloseTo(0.5, 9);
  expect(both?.outer?.[0]).toBeCloseTo(0.25, 9);
  expect(dialGeometry({ usl: 2.42 }, dial)).toMatchObject({ leftClosed: false, beyondRight: true });
  expect(dialGeometry({ usl: 2.42 }, { ...dial, mean: null })).toBeNull();
});

test("labels at the end of a panel never cover each other", () => {
  const places = spreadLabels([100, 104, 98], 31, { left: 0, right: 1, top: 0, bottom: 150 });
  const sorted = [...places].sort((a, b) => a - b);
  expect((sorted[1] ?? 0) - (sorted[0] ?? 0)).toBeGreaterThanOrEqual(31);
  expect((sorted[2] ?? 0) - (sorted[1] ?? 0)).toBeGreaterThanOrEqual(31);
  expect(Math.max(...places)).toBeLessThanOrEqual(156);
});

test("the nearest point is found between neighbours and at both ends", () => {
  const point = (i: number) => ({ i, row_ids: [i], rows: [i], label: "", n: 1, omitted: false });
  const points = [0, 10, 20].map(point);
  expect([-5, 4, 6, 99].map((at) => nearestPoint(points, at)?.i)).toEqual([0, 0, 10, 20]);
  expect(nearestPoint([], 3)).toBeUndefined();
});

test("numbers and times are written and read as people do", () => {
  expect(fixed(-0.0004, 3)).toBe("0.000");
  expect(fixed(-1.25, 1)).toBe("−1.3");
  expect(typedNumber(" 2,41 ")).toBe(2.41);
  expect(typedNumber("")).toBeNull();
  expect(typedNumber("2.4O")).toBeUndefined();
  expect(shortTime("2026-05-04 06:10")).toBe("4 May 06:10");
  expect(shortTime("reel 7")).toBe("reel 7");
});

test("limits step where they vary and break between phases", () => {
  const step = (from: number, to: number, phase: number, ucl: number | null) => ({ from, to, phase, point: { ucl } });
  const same = ((value: number) => value) as unknown as Scale;
  const all = [step(0, 1, 0, 5), step(1, 2, 0, 6), step(2, 3, 7, 6), step(3, 4, 7, null), step(4, 5, 7, 2)];
  expect(stepPath(all, same, (at) => at.ucl)).toBe("M0 5H1V6H2M2 6H3M4 2H5");
  expect([0.04871, 12.4, 3456].map(roundWidth)).toEqual([0.049, 12, 3500]);
});

test("the wall stands by dataset, the one with the worst dial first, and small dials stand closer", () => {
  const dial = (dataset_id: number, signals: number, ppk: number) =>
    ({
      dataset_id,
      dataset: `D${dataset_id}`,
      column: { name: "flux" },
      dial: { signals, steady: signals === 0, ppk },
    }) as Watched;
  const all = [
    dial(1, 0, 1.5),
    dial(2, 0, 0.9),
    dial(1, 0, 1.2),
    dial(3, 4, 2),
    { ...dial(2, 0, 1), dial: null, problem: "no" },
  ];
  const order = (by: GroupBy, order: Order) =>
    groupsOf(all, by, order).map(
      ({ name, entries }) => `${name} ${entries.map((one) => one.dial?.ppk ?? "none").join(" ")}`,
    );
  expect(order("dataset", "name")).toEqual(["D1 1.5 1.2", "D2 0.9 none", "D3 2"]);
  expect(order("dataset", "worst")).toEqual(["D2 none 0.9", "D3 2", "D1 1.2 1.5"]);
  // By hand: those that were hung first, in their order, the others behind.
  const hung = (at: number, line: string, place: number) => {
    const entry = all[at];
    if (entry) entry.place = { column_id: at, line, product: "", place };
  };
  hung(3, "line 1", 0);
  hung(2, "line 2", 1);
  hung(0, "line 1", 2);
  expect(order("dataset", "hand")).toEqual(["D3 2", "D1 1.2 1.5", "D2 0.9 none"]);
  expect(order("line", "hand")).toEqual(["line 1 2 1.5", "line 2 1.2", "no line yet 0.9 none"]);
  expect(foundIn(all, "LINE 1 d3", () => true)).toEqual([all[3]]);
  expect([columnsIn(1168, false), columnsIn(1168, true), columnsIn(90, false)]).toEqual([4, 7, 1]);
});

test("what changed since the day before is said of each characteristic and of the whole Wall", () => {
  const entry = (before: [boolean, number, number] | null, now: [boolean, number, number]) => {
    const of = ([steady, signals, ppk]: [boolean, number, number]) => ({ steady, signals, ppk });
    return { before: before && { day: "2026-05-04", ...of(before) }, dial: of(now) } as unknown as Watched;
  };
  const all = [
    entry([true, 0, 1.4], [false, 2, 1.2]),
    entry([false, 3, 1.1], [true, 0, 1.1]),
    entry([false, 3, 1.1], [false, 4, 1.3]),
    entry([true, 0, 1.33], [true, 0, 1.27]),
    entry([true, 0, 1.33], [true, 0, 1.3]),
    entry(null, [false, 1, 1]),
  ];
  const words = ["no longer steady", "steady again", "1 more signal", "Ppk was 1.33", "", ""];
  expect(all.map(sinceWords)).toEqual(words);
  const parts = "1 no longer steady, 1 steady again, 1 with more signals, 1 with a lower Ppk.";
  expect(sinceHeadline(all)).toBe(`Since Monday 4 May: ${parts}`);
  expect(sinceHeadline(all.slice(4, 5))).toBe("Since Monday 4 May: nothing has changed.");
  expect(sinceHeadline(all.slice(5))).toBeNull();
});

test("the dial of a count begins at nothing and goes on beyond what is expected", () => {
  const dial = { of: "share", mean: 0.04, lcl: 0, ucl: 0.1, recent: [0.05, null, 0.2] } as unknown as Schema["Dial"];
  const found = dialGeometry({}, dial);
  expect(found).toMatchObject({ leftClosed: true, rightClosed: false, beyondRight: false });
  expect(found?.needle).toBeCloseTo(0.04 / 0.22, 12);
  expect(found?.outer?.[1]).toBeCloseTo(0.1 / 0.22, 12);
  expect(dialGeometry({}, { ...dial, mean: 0, ucl: null, recent: [0] })).toBeNull();
});

test("the staircase keeps readings, fences and rulers on one axis, and steps in their order", () => {
  const part = (label: string, mean: number) => ({ label, mean, readings: [[mean - 0.1, mean + 0.1], [mean]] });
  const numbers = {
    n: 9,
    parts: [part("a", 1), part("b", 2), part("c", 4)],
    operators: [{ label: "Ida" }, { label: "Mei" }],
    lsl: 0,
    usl: 5,
    spreads: [{ source: "gauge", wide: 0.6 }],
    basis_wide: 5,
  } as unknown as Gauge;
  const layout = placeStaircase(numbers, 900, 600, false);
  expect(layout.marks).toHaveLength(9);
  expect(layout.marks.every((mark) => mark.x > layout.stairs.left && mark.x < layout.stairs.right)).toBe(true);
  expect([layout.fences.length, layout.middle, layout.crowded]).toEqual([2, 2.5, false]);
  // The frame of the rulers is as tall as the tolerance on the axis of the readings.
  expect(layout.y(0) - layout.y(5)).toBeLessThanOrEqual(layout.stairs.bottom - layout.stairs.top);
  expect(stairPath(numbers, layout, false).match(/[ML]/g)).toHaveLength(3);
  const about = placeStaircase(numbers, 900, 600, true);
  expect([about.fences.length, about.stairs.right > layout.stairs.right]).toEqual([0, true]);
  expect(Math.max(...about.marks.map((mark) => Math.abs(mark.value)))).toBeCloseTo(0.1);
  // A limit far away is not drawn, for it would flatten the readings.
  expect(placeStaircase({ ...numbers, usl: 500 } as Gauge, 900, 600, false).fences).toHaveLength(1);
  const many = { ...numbers, parts: Array.from({ length: 90 }, (_, k) => part(`p${k}`, k)) } as unknown as Gauge;
  expect(placeStaircase(many, 900, 600, false).crowded).toBe(true);
});
