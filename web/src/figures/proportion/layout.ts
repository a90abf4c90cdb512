import { scaleLinear, scaleLog } from "d3-scale";
import type { Schema } from "../../api/client";
import { fixed } from "../../lib/format";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["ProportionNumbers"];
export type One = Schema["ProportionOne"];
export type Two = Schema["ProportionTwo"];
export type Planned = Schema["ProportionPlanned"];

export type ClaimLayout = {
  /** The number line of shares or rates, which everything stands on. */
  x: Scale;
  /** Where the interval is drawn. */
  interval: Box;
  /** Where the counts under the claim are drawn; null without a claim. */
  counts: Box | null;
  /** The height of a chance. */
  y: Scale;
  /** Pixels between neighbouring counts. */
  step: number;
};

const MARGIN = { left: 40, right: 40, top: 56, bottom: 56 };
const ROOM = 0.06;

/** Out of how many, or in how much. */
export const sizeOf = ({ n, exposure }: One): number => n ?? exposure ?? 1;

/** Writes shares in percent and rates with some digits. */
export function writerFor(pieces: boolean, values: number[]) {
  if (pieces) return (value: number) => `${fixed(100 * value, 1)} %`;
  const largest = Math.max(1e-12, ...values.map(Math.abs));
  const decimals = Math.max(0, 2 - Math.floor(Math.log10(largest)));
  return (value: number) => fixed(value, decimals);
}

/** A line of shares or rates: shares end at 0 and 1, rates at 0. */
function line(values: number[], pieces: boolean, left: number, right: number): Scale {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const pad = Math.max((high - low) * ROOM, pieces ? 0.002 : high * 0.01 || 0.01);
  return scaleLinear([Math.max(0, low - pad), pieces ? Math.min(1, high + pad) : high + pad], [left, right]);
}

/** One axis, wide enough for the interval, the claim and the counts that it makes likely. */
export function placeClaim(numbers: One, width: number, height: number): ClaimLayout {
  const shares = numbers.outcomes.map(({ count }) => count / sizeOf(numbers));
  const all = [...numbers.ci95, numbers.estimate, ...(numbers.claim == null ? [] : [numbers.claim]), ...shares];
  const [left, right] = [MARGIN.left, Math.max(MARGIN.left + 60, width - MARGIN.right)];
  const x = line(all, numbers.n != null, left, right);
  const foot = Math.max(160, height - MARGIN.bottom);
  const split = numbers.claim == null ? foot : MARGIN.top + (foot - MARGIN.top) * 0.34;
  const counts = numbers.claim == null ? null : { left, right, top: split + 34, bottom: foot };
  const most = Math.max(1e-12, ...numbers.outcomes.map(({ chance }) => chance));
  const y = scaleLinear([0, most], counts ? [counts.bottom, counts.top] : [foot, foot]);
  const [first, second] = shares;
  const step = first === undefined || second === undefined ? 12 : x(second) - x(first);
  return { x, interval: { left, right, top: MARGIN.top, bottom: split }, counts, y, step };
}

export type TwoLayout = {
  /** Both samples on one line. */
  x: Scale;
  sides: { one: One; y: number }[];
  foot: number;
  /** The difference, or the ratio, on a line of its own. */
  apart: { x: Scale; y: number; foot: number; low: number; at: number | null; high: number | null; same: number };
};

/** Two number lines under each other on one axis, and the difference on its own. */
export function placeTwo(two: Two, width: number, height: number): TwoLayout {
  const [left, right] = [150, Math.max(240, width - MARGIN.right)];
  const part = Math.max(60, (height - 150) / 3);
  const sides = two.samples.map((one, place) => ({ one, y: 56 + part * (place + 0.5) }));
  const foot = 62 + 2 * part;
  const [low, high] = two.counting_pieces ? (two.difference_ci95 ?? [0, 0]) : (two.ratio_ci95 ?? [0, null]);
  const same = two.counting_pieces ? 0 : 1;
  const at = two.counting_pieces ? two.difference : (two.ratio ?? null);
  const ends = [low ?? 0, high ?? Math.max(2, 2 * (at ?? 1)), at ?? same, same];
  const pad = (Math.max(...ends) - Math.min(...ends)) * ROOM || 0.01;
  const domain = [Math.min(...ends) - pad, Math.max(...ends) + pad];
  return {
    x: line(
      two.samples.flatMap(({ ci95, estimate }) => [...ci95, estimate]),
      two.counting_pieces,
      left,
      right,
    ),
    sides,
    foot,
    apart: {
      x: scaleLinear(two.counting_pieces ? domain : [Math.max(0, domain[0] ?? 0), domain[1] ?? 1], [left, right]),
      y: foot + 74 + part * 0.2,
      foot: Math.min(height - 36, foot + 104 + part * 0.4),
      low: low ?? 0,
      at,
      high: high ?? null,
      same,
    },
  };
}

export type PlanLayout = { x: ReturnType<typeof scaleLog<number, number>>; y: Scale; box: Box; path: string };

/** What each number of pieces reaches. */
export function placePlan({ curve, goal, inspect }: Planned, width: number, height: number): PlanLayout {
  const box = { left: 70, right: Math.max(200, width - 50), top: 70, bottom: Math.max(160, height - 66) };
  const x = scaleLog([curve[0]?.n ?? 1, curve.at(-1)?.n ?? inspect + 1], [box.left, box.right]);
  const values = [goal, ...curve.map(({ value }) => value)];
  const y = scaleLinear([0, Math.min(1, Math.max(...values) * 1.05)], [box.bottom, box.top]);
  const path = curve.map(({ n, value }, place) => `${place === 0 ? "M" : "L"}${x(n)} ${y(value)}`).join("");
  return { x, y, box, path };
}
