import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Fence, PanelLayout, Scale } from "../../marks/panel-layout";
import { valueScale } from "../../marks/panel-layout";

export type Numbers = Schema["CapabilityNumbers"];

/** Three panes on one value axis, and the spread chart under the first when it is asked for. */
export type OneScale = {
  y: Scale;
  order: PanelLayout | null;
  histogram: Box;
  plot: Box;
  spread: PanelLayout | null;
  fences: Fence[];
  /** Limits too far off to be drawn without flattening the values. */
  far: Fence[];
};

const MARGIN = { left: 58, right: 84, top: 62, bottom: 96 };
const GAP = 26;
const SPREAD = 92;
/** Room for the labels of the order and the title of the spread. */
const SPREAD_GAP = 46;
/** How the width is shared by order, histogram and plot. */
const SHARES = [0.5, 0.28, 0.22] as const;
/** A fence farther than so many spans of the values from them is told, not drawn. */
const FAR = 2.5;

export function placeOneScale(numbers: Numbers, width: number, height: number, withSpread: boolean): OneScale {
  const chart = numbers.chart;
  const free = width - MARGIN.left - MARGIN.right - 2 * GAP;
  const bottom = height - MARGIN.bottom - (withSpread ? SPREAD + SPREAD_GAP : 0);
  const order = { left: MARGIN.left, right: MARGIN.left + free * SHARES[0], top: MARGIN.top, bottom };
  const histogram = { ...order, left: order.right + GAP, right: order.right + GAP + free * SHARES[1] };
  const plot = { ...order, left: histogram.right + GAP, right: histogram.right + GAP + free * SHARES[2] };

  const [low, high] = reach(numbers);
  const span = high - low || Math.abs(high) || 1;
  const given = [
    { side: "lsl" as const, value: numbers.limits.lsl },
    { side: "usl" as const, value: numbers.limits.usl },
  ].flatMap(({ side, value }) => (value == null ? [] : [{ side, value }]));
  const near = ({ value }: Fence) => value >= low - FAR * span && value <= high + FAR * span;
  const fences = given.filter(near);
  const ends = [low, high, ...fences.map((fence) => fence.value)];
  const [first, last] = [Math.min(...ends), Math.max(...ends)];
  const pad = (last - first || Math.abs(last) || 1) * 0.07;
  const y = scaleLinear([first - pad, last + pad], [bottom, MARGIN.top]);

  const points = chart?.points ?? 1;
  const x = scaleLinear([-0.5, Math.max(points - 1, 1) + 0.5], [order.left, order.right]);
  const [location, ranges] = chart?.panels ?? [];
  const foot = { ...order, top: bottom + SPREAD_GAP, bottom: bottom + SPREAD_GAP + SPREAD };
  return {
    y,
    order: location ? { index: 0, numbers: location, box: order, x, y, fences: [], brackets: [] } : null,
    histogram,
    plot,
    spread:
      withSpread && ranges
        ? {
            index: 1,
            numbers: ranges,
            box: foot,
            x,
            y: valueScale(ranges.span, [], foot, true),
            fences: [],
            brackets: [],
          }
        : null,
    fences,
    far: given.filter((fence) => !near(fence)),
  };
}

/** The values, control limits and curves that must be in sight. */
function reach(numbers: Numbers): [number, number] {
  const location = numbers.chart?.panels[0];
  const top = Math.max(0, ...numbers.long_term.map((point) => point.count));
  // A curve is in sight as far as it can be told from its foot.
  const curve = numbers.long_term.filter((point) => point.count > 0.004 * top).map((point) => point.value);
  const contents = location?.points.flatMap((point) => point.contents ?? []) ?? [];
  const ends = [
    numbers.bins[0]?.from,
    numbers.bins.at(-1)?.to,
    ...(location?.span ?? []),
    ...contents,
    ...curve,
  ].filter((value): value is number => value != null && Number.isFinite(value));
  return [Math.min(...ends), Math.max(...ends)];
}

/** The value nearest to one that is pointed at. */
export function nearest<T>(all: T[], value: (one: T) => number | null | undefined, at: number): T | undefined {
  let best: T | undefined;
  let least = Number.POSITIVE_INFINITY;
  for (const one of all) {
    const distance = Math.abs((value(one) ?? Number.NaN) - at);
    if (distance < least) [best, least] = [one, distance];
  }
  return best;
}
