import { expect, test } from "@playwright/test";
import { nearestPoint, spreadLabels } from "../src/figures/control-chart/layout";
import { fixed, shortTime, typedNumber } from "../src/lib/format";
import { arcEnds, dialGeometry } from "../src/marks/dial-layout";

const dial = { mean: 2.4, sd_within: 0.01, recent: [], recent_signals: [], signals: 0, steady: true };

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
  const point = (i: number) => ({ i, row_ids: [i], label: "", n: 1, omitted: false });
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
