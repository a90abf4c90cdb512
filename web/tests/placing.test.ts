import { expect, test } from "vitest";
import { type Numbers as Capability, placeOneScale } from "../src/figures/capability/layout";
import { layoutPanels } from "../src/figures/control-chart/layout";
import { fencesNear, type Numbers as Look, placeCells } from "../src/figures/distribution/layout";
import { placeClaim, type One as Share } from "../src/figures/proportion/layout";
import { placePanes, rate, squares } from "../src/figures/sigma-level/layout";
import { type PanelLayout, spreadLabels, steps } from "../src/marks/panel-layout";

type Chart = Parameters<typeof layoutPanels>[0];

/** The same numbers on every run, spread evenly over 0 to 1. */
function* even(seed = 0.31): Generator<number, never> {
  for (let at = seed; ; at = (at + 0.754877666) % 1) yield at;
}

const point = (i: number, value: number | null, more: object = {}) => ({
  i,
  row_ids: [i],
  rows: [i],
  label: "",
  n: 1,
  omitted: false,
  value,
  ...more,
});
const phase = (first: number, last: number, more: object = {}) => ({
  first,
  last,
  center: 0,
  lcl: -3,
  ucl: 3,
  ...more,
});
const panel = (name: string, points: object[], phases: object[], signals: object[] = []) => ({
  never_negative: name !== "individuals",
  name,
  points,
  phases,
  signals,
  signal_count: signals.length,
  span: [-4, 4],
});
const chart = (...panels: object[]) => ({ panels, single_values: true }) as unknown as Chart;
const wave = Array.from({ length: 200 }, (_, i) => point(i, Math.sin(i * 1.7) * 3));

test("panels of a chart share their order, stand under each other and stay in the figure", () => {
  const numbers = chart(panel("individuals", wave, [phase(0, 199)]), panel("moving-range", wave, [phase(0, 199)]));
  for (const [width, height] of [
    [820, 610],
    [1400, 900],
    [480, 320],
  ] as const) {
    const placed = layoutPanels(numbers, width, height, 0, 199, {});
    const [above, below] = placed as [PanelLayout, PanelLayout];
    expect(below.box.top - above.box.bottom).toBeGreaterThanOrEqual(40);
    expect(below.box.bottom).toBeLessThanOrEqual(height);
    expect(above.box.bottom - above.box.top).toBeGreaterThan(below.box.bottom - below.box.top);
    for (const i of [0, 57, 199]) expect(below.x(i)).toBe(above.x(i));
    for (const one of placed) expect(one.y(-4)).toBeGreaterThan(one.y(4));
  }
  // A floor of 0 is drawn as the foot where values come near it.
  const floored = layoutPanels(numbers, 820, 610, 0, 199, {})[1] as PanelLayout;
  expect(floored.y.domain()[0]).toBe(0);
});

test("a limit of the customer far from the values is left out rather than flattening them", () => {
  const numbers = chart(panel("individuals", wave, [phase(0, 199)]));
  const fences = (lsl: number, usl: number) => layoutPanels(numbers, 820, 610, 0, 199, { lsl, usl })[0]?.fences;
  expect(fences(-5, 400)).toEqual([{ side: "lsl", value: -5 }]);
  const near = layoutPanels(numbers, 820, 610, 0, 199, { lsl: -7, usl: 7 })[0] as PanelLayout;
  expect(near.fences).toHaveLength(2);
  expect(near.y(-7)).toBeLessThanOrEqual(near.box.bottom);
  expect(near.y(7)).toBeGreaterThanOrEqual(near.box.top);
  const means = { ...numbers, single_values: false } as Chart;
  expect(
    layoutPanels(means, 820, 610, 0, 199, { lsl: -5 })[0]?.fences,
    "limits of pieces say nothing of means",
  ).toEqual([]);
});

test("brackets of runs lie under their points, inside the panel, and never on each other", () => {
  const next = even();
  const signals = Array.from({ length: 20 }, () => {
    const first = Math.floor(next.next().value * 180);
    return { pattern: "run-one-side", first, last: first + 8, side: -1 };
  });
  const lone = { pattern: "beyond-limits", first: 3, last: 3, side: 1 };
  const numbers = chart(panel("individuals", wave, [phase(0, 199)], [...signals, lone]));
  const placed = layoutPanels(numbers, 1200, 760, 0, 199, {})[0] as PanelLayout;
  expect(placed.brackets.length).toBe(20);
  for (const one of placed.brackets) {
    expect(one.left).toBeLessThan(one.right);
    expect(one.y).toBeGreaterThan(placed.box.top);
    expect(one.y).toBeLessThanOrEqual(placed.box.bottom);
  }
  const onEachOther = placed.brackets.flatMap((one, k) =>
    placed.brackets
      .slice(k + 1)
      .filter((other) => Math.abs(other.y - one.y) < 10 && other.left < one.right && other.right > one.left),
  );
  expect(onEachOther).toEqual([]);
});

test("lines hold over a phase, step where samples differ and end where the view ends", () => {
  const unlike = [
    point(6, 0, { ucl: 3, lcl: -3, center: 0 }),
    point(7, 0, { ucl: 2, lcl: -2, center: 0 }),
    point(8, 0, { ucl: 4, lcl: -4, center: 0 }),
  ];
  const even = Array.from({ length: 6 }, (_, i) => point(i, 1));
  const numbers = chart(
    panel("individuals", [...even, ...unlike], [phase(0, 5), phase(6, 8, { ucl: null, lcl: null })]),
  );
  const placed = layoutPanels(numbers, 820, 610, 0, 8, {})[0] as PanelLayout;
  const drawn = steps(placed);
  expect(drawn.map((step) => step.point.ucl)).toEqual([3, 3, 2, 4]);
  expect(drawn[0]?.from).toBe(placed.box.left);
  expect(drawn.at(-1)?.to).toBe(placed.box.right);
  for (let k = 1; k < drawn.length; k++) expect(drawn[k]?.from).toBeCloseTo(drawn[k - 1]?.to ?? Number.NaN, 9);
  const later = layoutPanels(numbers, 820, 610, 6, 8, {})[0] as PanelLayout;
  expect(steps(later), "a phase out of sight has no lines").toHaveLength(3);
});

test("labels keep their order and their distance wherever the lines lie", () => {
  const next = even(0.11);
  for (let round = 0; round < 50; round++) {
    const wanted = Array.from({ length: 4 }, () => 60 + next.next().value * 300);
    const placed = spreadLabels(wanted, 31, { left: 0, right: 1, top: 40, bottom: 400 });
    const order = wanted.map((_, k) => k).sort((a, b) => (wanted[a] ?? 0) - (wanted[b] ?? 0));
    for (let k = 1; k < order.length; k++) {
      const [above, here] = [placed[order[k - 1] ?? 0] ?? 0, placed[order[k] ?? 0] ?? 0];
      expect(here - above).toBeGreaterThanOrEqual(31 - 1e-9);
    }
    expect(Math.max(...placed)).toBeLessThanOrEqual(406);
  }
});

const capability = (limits: object) =>
  ({
    limits,
    chart: {
      points: 200,
      panels: [panel("individuals", wave, [phase(0, 199)]), panel("moving-range", wave, [phase(0, 199, { lcl: 0 })])],
    },
    bins: [{ from: -4, to: 4, count: 200 }],
    long_term: [
      { x: -4, count: 1 },
      { x: 0, count: 90 },
      { x: 4, count: 1 },
    ],
    short_term: [],
    min: -3,
    max: 3,
  }) as unknown as Capability;

test("order, histogram and plot stand side by side on one scale of values with the limits", () => {
  for (const withSpread of [false, true]) {
    const placed = placeOneScale(capability({ lsl: -6, usl: 6 }), 820, 610, withSpread);
    const order = placed.order as PanelLayout;
    expect(order.box.right).toBeLessThan(placed.histogram.left);
    expect(placed.histogram.right).toBeLessThan(placed.plot.left);
    expect(placed.plot.right).toBeLessThanOrEqual(820);
    for (const box of [placed.histogram, placed.plot]) {
      expect([box.top, box.bottom]).toEqual([order.box.top, order.box.bottom]);
    }
    expect(order.y, "one scale, not three alike").toBe(placed.y);
    expect(placed.fences.map(({ value }) => value)).toEqual([-6, 6]);
    for (const value of [-6, -4, 4, 6]) {
      expect(placed.y(value)).toBeLessThan(placed.histogram.bottom);
      expect(placed.y(value)).toBeGreaterThan(placed.histogram.top);
    }
    expect(placed.spread === null).toBe(!withSpread);
    if (placed.spread) {
      expect(placed.spread.box.top).toBeGreaterThan(order.box.bottom);
      expect(placed.spread.x(7)).toBe(order.x(7));
    }
  }
  const far = placeOneScale(capability({ lsl: -6, usl: 900 }), 820, 610, false);
  expect(far.far).toEqual([{ side: "usl", value: 900 }]);
  expect(far.fences).toEqual([{ side: "lsl", value: -6 }]);
});

const look = (groups: number, sameScale: boolean) =>
  ({
    groups: Array.from({ length: groups }, (_, k) => ({
      label: groups > 1 ? `bench ${k}` : null,
      n: k === 1 ? 0 : 20,
      min: k * 10,
      max: k * 10 + 5,
      bins: [{ from: k * 10, to: k * 10 + 5, count: 20 }],
    })),
    span: [0, groups * 10],
    same_scale: sameScale,
  }) as unknown as Look;

test("groups stand in a grid without touching, on one scale when that is asked for", () => {
  for (const groups of [1, 5, 12, 29, 60]) {
    const cells = placeCells(look(groups, true), 820, 610, [], false);
    expect(cells.length).toBe(Math.min(30, groups - (groups > 1 ? 1 : 0)));
    const overlaps = cells.filter((cell, k) =>
      cells
        .slice(k + 1)
        .some(
          ({ box }) =>
            box.left < cell.box.right &&
            box.right > cell.box.left &&
            box.top < cell.box.bottom &&
            box.bottom > cell.box.top,
        ),
    );
    expect(overlaps, `${groups} groups`).toEqual([]);
    expect(new Set(cells.map((cell) => String(cell.x.domain()))).size).toBe(1);
    expect(cells.at(-1)?.showsAxis).toBe(true);
  }
  const own = placeCells(look(5, false), 820, 610, [], false);
  expect(new Set(own.map((cell) => String(cell.x.domain()))).size).toBe(4);
  expect(own.every((cell) => cell.showsAxis)).toBe(true);
  expect(fencesNear(look(5, true), { lsl: -20, usl: 500 })).toEqual([{ side: "lsl", value: -20 }]);
});

test("a claim, its interval and the counts under it share one line of shares between 0 and 1", () => {
  const outcomes = Array.from({ length: 11 }, (_, count) => ({ count, chance: 0.01 * (11 - count) }));
  const numbers = { n: 400, estimate: 0.0125, ci95: [0.004, 0.029], claim: 0.02, outcomes } as unknown as Share;
  const placed = placeClaim(numbers, 820, 610);
  const [low = 0, high = 0] = placed.x.domain();
  expect(low).toBeGreaterThanOrEqual(0);
  expect(high).toBeGreaterThan(0.029);
  expect(placed.counts?.top).toBeGreaterThan(placed.interval.bottom);
  expect(placed.y(0)).toBe(placed.counts?.bottom);
  expect(placed.step).toBeCloseTo(placed.x(1 / 400) - placed.x(0), 9);
  const plain = placeClaim({ ...numbers, claim: null, outcomes: [] } as unknown as Share, 820, 610);
  expect(plain.counts).toBeNull();
  expect(plain.interval.bottom).toBeGreaterThan(placed.interval.bottom);
  const sure = placeClaim(
    { ...numbers, estimate: 1, ci95: [0.99, 1], claim: 1, outcomes: [] } as unknown as Share,
    820,
    610,
  );
  expect(sure.x.domain()[1]).toBe(1);
});

test("a rare defect still shows as a square, and a million is written as people write it", () => {
  expect(squares(0.25)).toEqual({ bad: 250, each: 1 });
  expect(squares(3.4e-6)).toEqual({ bad: 3, each: 1000 });
  expect(squares(0)).toEqual({ bad: 0, each: 1 });
  expect(squares(1)).toEqual({ bad: 1000, each: 1 });
  expect([308538, 233.2, 3.4, 0.0191, 0].map(rate)).toEqual(["308,538", "233", "3.4", "0.019", "0.0"]);
  const { picture, ladder } = placePanes(820, 610);
  expect(picture.right).toBeLessThan(ladder.left);
  expect(ladder.right).toBeLessThan(820);
});
