import { expect, test } from "vitest";
import { placeGrid, placeOf } from "../src/figures/gauge-attribute/layout";
import { placeBias } from "../src/figures/gauge-linearity/layout";
import { placeRun } from "../src/figures/gauge-single/layout";
import { blockOf } from "../src/lib/block";
import { type Numbers, OPERATORS_DRAWN, pinPlace, placeStaircase } from "../src/marks/gauge/layout";
import { dueWords, isLate, standingOf, wantsCare } from "../src/screens/gauges/words";
import { planOf, START, withKind } from "../src/screens/plan/plan-state";

const WRITER = { factor: 1, decimals: 2, computed_decimals: 3, unit: "mm" };
const [WIDTH, HEIGHT] = [820, 640];

type GridNumbers = Parameters<typeof placeGrid>[0];
const judged = (pieces: number, operators: number, trials: number, known: boolean) =>
  ({
    operators: Array.from({ length: operators }, (_, k) => `I${k}`),
    trials,
    parts: pieces,
    all_against: known ? { inspected: pieces, matched: 0, share: 0, ci95: [0, 1] } : null,
    // Most divided first, so that the order of the data is another.
    grid: Array.from({ length: Math.min(400, pieces) }, (_, k) => ({
      part: (k * 7) % pieces,
      label: `J${k}`,
      ratings: [],
      odd: 0,
    })),
  }) as unknown as GridNumbers;

test("pieces stand in as many bands as make them large, and none outside the figure", () => {
  for (const [pieces, operators, trials] of [
    [5, 2, 1],
    [30, 3, 2],
    [40, 3, 2],
    [50, 3, 3],
    [400, 2, 2],
    [30, 9, 3],
  ] as const) {
    for (const known of [true, false]) {
      const numbers = judged(pieces, operators, trials, known);
      const layout = placeGrid(numbers, WIDTH, HEIGHT, false);
      const seen = new Set<string>();
      layout.parts.forEach((_, place) => {
        const { band, x } = placeOf(layout, place);
        seen.add(`${band} ${x}`);
        expect(x - layout.wide / 2).toBeGreaterThanOrEqual(layout.left - 0.01);
        expect(x + layout.wide / 2).toBeLessThan(layout.shares.left);
        // Each look has its own line, below that of the reference and inside its band.
        const last = layout.row(band, operators - 1) + trials * layout.high;
        expect(layout.row(band, 0)).toBeGreaterThanOrEqual(layout.top(band) + (known ? layout.high : 0));
        expect(last).toBeLessThanOrEqual(layout.top(band) + layout.deep + 0.01);
      });
      expect(seen.size, `${pieces} pieces stand apart`).toBe(layout.parts.length);
      expect(layout.cell).toBeLessThanOrEqual(Math.min(layout.wide, layout.high));
    }
  }
  // Forty pieces fill two bands with cells twice as large as one band would have.
  const forty = placeGrid(judged(40, 3, 2, true), WIDTH, HEIGHT, false);
  expect(forty.each).toBe(20);
  expect(forty.wide).toBeGreaterThan(20);
  expect(placeGrid(judged(400, 2, 2, true), WIDTH, HEIGHT, false).parts.length).toBeLessThan(400);
});

test("pieces in the order of the data are the same pieces in another order", () => {
  const [odd, own] = [false, true].map((byName) => placeGrid(judged(30, 3, 2, true), WIDTH, HEIGHT, byName).parts);
  expect(own?.map(({ part }) => part)).toEqual([...(own ?? [])].map(({ part }) => part).sort((a, b) => a - b));
  expect(new Set(own)).toEqual(new Set(odd));
});

type RunNumbers = Parameters<typeof placeRun>[0];
const run = (values: number[], part: Partial<RunNumbers>) =>
  ({
    readings: values.map((value, i) => ({ i, value })),
    reference: 5,
    mean: 5,
    sd: 0.1,
    multiplier: 6,
    share: 0.2,
    tolerance: null,
    ...part,
  }) as RunNumbers;

test("readings, reference and spread share one axis, and a frame far wider than they are is left out", () => {
  const view = { first: 0, last: 3 };
  const near = placeRun(run([4.9, 5, 5.1, 5.2], { tolerance: 4 }), WIDTH, HEIGHT, view);
  expect(near.allowed).toBeCloseTo(0.4);
  for (const value of [4.6, 4.7, 5, 5.3, 5.4]) {
    expect(near.y(value)).toBeGreaterThanOrEqual(near.box.top);
    expect(near.y(value)).toBeLessThanOrEqual(near.box.bottom);
  }
  expect(near.x(0)).toBeGreaterThan(near.box.left);
  expect(near.x(3)).toBeLessThan(near.box.right);
  expect(near.ruler.left).toBeGreaterThan(near.box.right);
  expect(placeRun(run([4.9, 5, 5.1, 5.2], { tolerance: 400 }), WIDTH, HEIGHT, view).allowed).toBeNull();
  // All alike still have an axis with room.
  const equal = placeRun(run([5, 5], { sd: 0 }), WIDTH, HEIGHT, { first: 0, last: 1 });
  expect(equal.y(5)).toBeGreaterThan(equal.box.top);
  expect(equal.y(5)).toBeLessThan(equal.box.bottom);
});

type BiasNumbers = Parameters<typeof placeBias>[0];

test("no bias is always in sight, and every piece, interval and band with it", () => {
  const piece = (reference: number, bias: number) => ({
    reference,
    bias,
    biases: [bias - 1, bias + 1],
    bias_ci95: [bias - 2, bias + 2],
  });
  for (const biases of [
    [5, 6],
    [-8, -9],
    [0, 0],
  ]) {
    const parts = biases.map((bias, k) => piece(200 * (k + 1), bias));
    const band = parts.map(({ reference, bias }) => ({ reference, fit: bias, low: bias - 3, high: bias + 3 }));
    const { box, x, y } = placeBias({ parts, band } as unknown as BiasNumbers, WIDTH, HEIGHT);
    for (const value of [0, ...biases.flatMap((bias) => [bias - 3, bias + 3])]) {
      expect(y(value)).toBeGreaterThan(box.top);
      expect(y(value)).toBeLessThan(box.bottom);
    }
    expect(x(200)).toBeGreaterThan(box.left);
    expect(x(400)).toBeLessThan(box.right);
  }
});

/** Three parts read by two operators twice; or by one of them each. */
const staircase = (nested: boolean): Numbers => ({
  n: 12,
  parts: [1, 2, 3].map((mean, place) => ({
    label: `H${place}`,
    mean,
    readings: nested
      ? place < 2
        ? [[mean, mean + 0.1], []]
        : [[], [mean, mean + 0.1]]
      : [[mean, mean + 0.1], [mean - 0.1]],
  })),
  operators: ["Ida", "Mei"].map((label) => ({
    label,
    mean: 2,
    bias: 0,
    off: false,
    sd: 0.1,
    mean_range: 0.1,
    inconsistent: false,
  })),
  bias_limits: [-0.1, 0.1],
  sd_limits: [0.05, 0.2],
  spreads: [{ source: "gauge", wide: 0.6, share: 0.2 }],
  basis: "tolerance",
  basis_wide: 3,
  share: 0.2,
  ndc: 5,
  lsl: 0.5,
  usl: 3.5,
  writer: WRITER,
});

test("each reading stands on its own step, apart from the other operator's, or alone on it when parts are their own", () => {
  const crossed = placeStaircase(staircase(false), WIDTH, HEIGHT, false);
  const nested = placeStaircase(staircase(true), WIDTH, HEIGHT, false);
  for (const { marks, step, stairs } of [crossed, nested]) {
    for (const { x, part } of marks) {
      expect(x).toBeGreaterThan(stairs.left + step * part);
      expect(x).toBeLessThan(stairs.left + step * (part + 1));
    }
  }
  const columns = (marks: typeof crossed.marks, part: number) =>
    new Set(marks.filter((mark) => mark.part === part).map(({ x }) => x));
  expect(columns(crossed.marks, 0).size).toBe(2);
  expect(columns(nested.marks, 0).size).toBe(1);
});

test("the letter of a note stands where the note is about, and nowhere for what is not drawn", () => {
  const layout = placeStaircase(staircase(false), WIDTH, HEIGHT, false);
  const at = (panel: number, first?: number, deviation = false) =>
    pinPlace(layout, { letter: "a", tone: "alarm", sentence: "", pin: { panel, first } }, deviation);
  const mark = layout.marks[4];
  const reading = at(0, 4);
  expect(Math.hypot((reading?.x ?? 0) - (mark?.x ?? 0), (reading?.y ?? 0) - layout.y(mark?.value ?? 0))).toBeLessThan(
    24,
  );
  // Operators: each on its own line, bias at the left, consistency at the right.
  const [bias, second, consistency] = [at(2, 0), at(2, 1), at(3, 1)];
  expect((second?.y ?? 0) - (bias?.y ?? 0)).toBe(21);
  expect(consistency?.y).toBe(second?.y);
  expect((consistency?.x ?? 0) - (second?.x ?? 0)).toBeGreaterThan(WIDTH / 3);
  expect([at(2, OPERATORS_DRAWN), at(3), at(1, undefined, true)]).toEqual([null, null, null]);
  expect(at(1)).not.toBeNull();
  expect(pinPlace(layout, { letter: "a", tone: "calm", sentence: "" }, false)).toBeNull();
});

test("what is typed becomes a plan: entries one a line or parted by commas, numbers with a decimal comma, the rest left out", () => {
  const typed = {
    ...START,
    characteristic: "groove depth",
    operators: "Ida, Jonas;\n Mei\n\n",
    lsl: "1,1",
    usl: "1.3",
    seed: "7.4",
  };
  expect(planOf(typed)).toMatchObject({
    kind: "crossed",
    operators: ["Ida", "Jonas", "Mei"],
    parts: 10,
    trials: 3,
    references: [],
    labels: [],
    info: { lsl: 1.1, usl: 1.3, unit: null, decimals: null },
    seed: 7,
  });
  // Another kind takes its usual numbers, and sends only what belongs to it.
  const single = planOf({ ...withKind(typed, "single"), references: "1,200" });
  expect(single).toMatchObject({ parts: 1, trials: 50, operators: [], references: [1.2] });
  const range = planOf({ ...withKind(typed, "linearity"), references: "200\n400; 600 x 800" });
  expect(range).toMatchObject({ parts: 5, trials: 12, references: [200, 400, 600, 800] });
  const judged = planOf({ ...withKind(typed, "attribute"), known: "bad\ngood" });
  expect(judged).toMatchObject({
    labels: ["bad", "good"],
    known: ["bad", "good"],
    info: { lsl: null },
    operators: ["Ida", "Jonas", "Mei"],
  });
});

test("cells copied from a spreadsheet are rows on lines and columns at tabs, whatever ends a line", () => {
  expect(blockOf("1.1\t1.2\r\n1.3\t\r\n")).toEqual([
    ["1.1", "1.2"],
    ["1.3", ""],
  ]);
  expect(blockOf("1,1\r1,2")).toEqual([["1,1"], ["1,2"]]);
  // One empty line at the end is none; one in between is an empty cell.
  expect(blockOf("5\n\n6\n")).toEqual([["5"], [""], ["6"]]);
});

test("a gauge stands as its last study left it, and wants care when that was bad or the next is near", () => {
  type Gauge = Parameters<typeof wantsCare>[0];
  const gauge = (due: Gauge["due"], tone?: string, next: string | null = "2026-11-20") =>
    ({
      due,
      next,
      records: tone
        ? [
            { tone, title: "As said" },
            { tone: "alarm", title: "Before" },
          ]
        : [],
    }) as unknown as Gauge;
  expect(standingOf(gauge("later", "calm"))).toEqual({ tone: "calm", words: "As said" });
  expect(standingOf(gauge("never", undefined, null)).words).toBe("Never studied");
  expect(
    [gauge("later", "calm"), gauge("not-asked", "caution", null), gauge("never", undefined, null)].some(wantsCare),
  ).toBe(false);
  expect([gauge("overdue", "calm"), gauge("soon", "calm"), gauge("later", "alarm")].every(wantsCare)).toBe(true);
  expect(isLate(gauge("later", "alarm"))).toBe(false);
  expect([gauge("overdue", "calm"), gauge("later", "calm"), gauge("never", undefined, null)].map(dueWords)).toEqual([
    "overdue since 2026-11-20",
    "next study 2026-11-20",
    "",
  ]);
});
