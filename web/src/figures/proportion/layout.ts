import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["ProportionNumbers"];

export type ClaimLayout = {
  /** The number line of shares, which everything stands on. */
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

/** One axis of shares, wide enough for the interval, the claim and the counts that it makes likely. */
export function placeClaim(numbers: Numbers, width: number, height: number): ClaimLayout {
  const shares = numbers.outcomes.map(({ count }) => count / numbers.n);
  const all = [...numbers.ci95, numbers.estimate, ...(numbers.claim == null ? [] : [numbers.claim]), ...shares];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = Math.max((high - low) * ROOM, 0.002);
  const [left, right] = [MARGIN.left, Math.max(MARGIN.left + 60, width - MARGIN.right)];
  const x = scaleLinear([Math.max(0, low - pad), Math.min(1, high + pad)], [left, right]);
  const foot = Math.max(160, height - MARGIN.bottom);
  const split = numbers.claim == null ? foot : MARGIN.top + (foot - MARGIN.top) * 0.34;
  const counts = numbers.claim == null ? null : { left, right, top: split + 34, bottom: foot };
  const most = Math.max(1e-12, ...numbers.outcomes.map(({ chance }) => chance));
  const y = scaleLinear([0, most], counts ? [counts.bottom, counts.top] : [foot, foot]);
  const [first, second] = shares;
  const step = first === undefined || second === undefined ? 12 : x(second) - x(first);
  return { x, interval: { left, right, top: MARGIN.top, bottom: split }, counts, y, step };
}
