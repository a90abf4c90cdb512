import { expect, test } from "vitest";
import { placeChange, placeOwn, type Numbers as Ranked } from "../src/figures/pareto/layout";
import {
  type One,
  type Planned,
  placeClaim,
  placePlan,
  placeTwo,
  type Two,
  writerFor,
} from "../src/figures/proportion/layout";
import { backTo } from "../src/study/statement/trail";

const one = (label: string, estimate: number, ci95: [number, number], of: Partial<One>) =>
  ({ label, x: 1, estimate, ci95, outcomes: [], claim: null, missing: 0, ...of }) as unknown as One;

test("two samples share one line, shares end at 0 and 1, and the difference has a line of its own", () => {
  const samples = [one("first", 0.01, [0, 0.05], { n: 100 }), one("second", 0.95, [0.9, 1], { n: 100 })];
  const two = { counting_pieces: true, samples, difference: -0.94, difference_ci95: [-0.99, -0.85] } as unknown as Two;
  const { x, sides, foot, apart } = placeTwo(two, 820, 560);
  expect([x.domain()[0], x.domain()[1]]).toEqual([0, 1]);
  expect(sides[1]?.y ?? 0).toBeGreaterThan(sides[0]?.y ?? 0);
  expect(foot).toBeGreaterThan(sides[1]?.y ?? 0);
  expect([apart.same, apart.low, apart.high]).toEqual([0, -0.99, -0.85]);
  // No difference is always on the line, however far off.
  expect(apart.x(0)).toBeLessThanOrEqual(820);
  expect(apart.foot).toBeLessThan(560);
  const rates = [one("first", 0.4, [0.2, 0.6], { exposure: 60 }), one("second", 0, [0, 0.05], { exposure: 75 })];
  const none = { counting_pieces: false, samples: rates, ratio: null, ratio_ci95: [2.1, null] } as unknown as Two;
  const open = placeTwo(none, 820, 560).apart;
  expect([open.at, open.high, open.same]).toEqual([null, null, 1]);
  expect(open.x(2.1)).toBeLessThan(open.x.range()[1] ?? 0);
});

test("a rate has a line from 0 on, and is written with digits that tell it from its ends", () => {
  const rate = one("", 0.00258, [0.00175, 0.00367], { exposure: 12000 });
  const placed = placeClaim(rate, 820, 610);
  expect(placed.x.domain()[0]).toBeGreaterThanOrEqual(0);
  const write = writerFor(false, rate.ci95);
  expect([write(0.00258), write(0.00367)]).toEqual(["0.00258", "0.00367"]);
  expect(writerFor(true, [])(0.064)).toBe("6.4 %");
});

test("the curve of a plan passes through the number that it names", () => {
  const curve = [2, 20, 59, 120, 236].map((n) => ({ n, value: 1 - 0.95 ** n }));
  const planned = { curve, goal: 0.95, reached: 0.9515, inspect: 59, wanted: "confidence" } as unknown as Planned;
  const { x, y, box, path } = placePlan(planned, 820, 610);
  expect(path.startsWith(`M${x(2)} `)).toBe(true);
  expect(x(59)).toBeGreaterThan(box.left);
  expect(x(236)).toBeCloseTo(box.right, 6);
  expect(y(0)).toBe(box.bottom);
  expect(y(0.95)).toBeGreaterThan(box.top);
});

test("what changed stands in the order of the kinds, before over after on one scale from nothing", () => {
  const kinds = Array.from({ length: 60 }, (_, k) => ({
    category: `K${k}`,
    before: 60 - k,
    after: k,
    rate_before: (60 - k) / 900,
    rate_after: k / 900,
    changed: 0,
  }));
  const { rows, unseen, x, high } = placeChange(
    { kinds, labels: ["a", "b"], totals: [1, 1], neither: 0 } as never,
    820,
    610,
  );
  expect(rows.length + unseen).toBe(60);
  expect(rows.map(({ kind }) => kind.category)).toEqual(kinds.slice(0, rows.length).map(({ category }) => category));
  expect((rows.at(-1)?.y ?? 0) + high).toBeLessThanOrEqual(610);
  expect(x(0)).toBe(x.range()[0]);
  expect(x(60 / 900)).toBeCloseTo(x.range()[1] ?? 0, 9);
  const many = Array.from({ length: 12 }, (_, k) => ({
    label: `G${k}`,
    bars: [{ category: "a", count: 1, share: 1, cumulative: 1 }],
    other: null,
  }));
  const boxes = placeOwn(many as unknown as Ranked["groups"], 820, 610);
  expect(boxes.length).toBe(9);
  for (const { box } of boxes) expect([box.right <= 820, box.bottom <= 610]).toEqual([true, true]);
});

test("a step taken back gives its column the role that it had, and drops what came after", () => {
  const spec = {
    method: "pareto",
    roles: { category: "shift" },
    only: [
      { column: "kind", labels: ["loose gasket"], role: "category" },
      { column: "bench", labels: ["bench C"], role: "category" },
      { rows: [[3, 9]], from: "points 2 to 4" },
    ],
  };
  expect(backTo(spec, 1)).toEqual({ ...spec, roles: { category: "bench" }, only: spec.only.slice(0, 1) });
  expect(backTo(spec, 0)).toEqual({ ...spec, roles: { category: "kind" }, only: [] });
  // Rows had no role.
  expect(backTo(spec, 2)).toEqual({ ...spec, only: spec.only.slice(0, 2) });
});
