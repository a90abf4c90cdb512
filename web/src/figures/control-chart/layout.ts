import { extent } from "d3-array";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";

type Numbers = Schema["ControlChartNumbers"];
export type PanelNumbers = Schema["PanelNumbers"];
export type PointNumbers = Schema["PointNumbers"];
export type Signal = Schema["Signal"];

export type Box = { left: number; right: number; top: number; bottom: number };
export type Scale = ScaleLinear<number, number>;

/** One panel placed on the page. */
export type PanelLayout = {
  index: number;
  numbers: PanelNumbers;
  box: Box;
  x: Scale;
  y: Scale;
  /** Specification limits that lie within reach of the values. */
  fences: { side: "lsl" | "usl"; value: number }[];
  brackets: BracketLayout[];
};

export type BracketLayout = { signal: Signal; left: number; right: number; y: number };

type Limits = { lsl?: number | null; usl?: number | null };

export const MARGIN = { left: 62, right: 106, top: 40, bottom: 52 };
/** Room between panels: axis of the upper, stretch of the limits, title of the lower. */
const GAP = 74;
const LOWER_SHARE = 0.27;
/** A fence is drawn while it lies within this share of the span beyond it; further out it would flatten the values. */
const FENCE_REACH = 0.45;
const BRACKET_STEP = 15;
/** More brackets than this, or narrower ones, are noise; the ledger tells them, and going closer shows them. */
const BRACKETS_MOST = 24;
const BRACKET_LEAST = 5;

export function layoutPanels(
  numbers: Numbers,
  width: number,
  height: number,
  first: number,
  last: number,
  limits: Limits,
): PanelLayout[] {
  // A window too low for the figure gets it cut off at the foot rather than turned inside out.
  const free = Math.max(160, height - MARGIN.top - MARGIN.bottom - GAP * (numbers.panels.length - 1));
  const lower = numbers.panels.length > 1 ? Math.max(60, free * LOWER_SHARE) : 0;
  const heights = numbers.panels.map((_, index) => (index === 0 ? free - lower : lower));
  const left = MARGIN.left;
  const right = width - MARGIN.right;
  const x = scaleLinear([first - 0.5, Math.max(last, first + 1) + 0.5], [left, right]);
  let top = MARGIN.top;
  return numbers.panels.map((panel, index) => {
    const box = { left, right, top, bottom: top + (heights[index] ?? 0) };
    top = box.bottom + GAP;
    const fences = index === 0 ? nearFences(panel, limits) : [];
    const y = valueScale(panel, fences, box, index > 0);
    const layout: PanelLayout = { index, numbers: panel, box, x, y, fences, brackets: [] };
    return { ...layout, brackets: placeBrackets(layout) };
  });
}

function nearFences(panel: PanelNumbers, limits: Limits): PanelLayout["fences"] {
  const [low, high] = panel.span ?? [0, 0];
  if (low === undefined || high === undefined) return [];
  const reach = (high - low) * FENCE_REACH;
  const sides = [
    { side: "lsl" as const, value: limits.lsl },
    { side: "usl" as const, value: limits.usl },
  ];
  return sides.flatMap(({ side, value }) =>
    value != null && value >= low - reach && value <= high + reach ? [{ side, value }] : [],
  );
}

function valueScale(panel: PanelNumbers, fences: PanelLayout["fences"], box: Box, fromZero: boolean): Scale {
  const [low = 0, high = 1] = extent([...(panel.span ?? [0, 1]), ...fences.map((fence) => fence.value)]) as [
    number,
    number,
  ];
  const pad = (high - low || Math.abs(high) || 1) * 0.08;
  const domain = [fromZero && low >= 0 ? 0 : low - pad, high + pad];
  return scaleLinear(domain, [box.bottom, box.top]);
}

/** Brackets under their runs; those that would overlap move down, then up from the foot of the panel. */
function placeBrackets({ numbers, box, x, y }: PanelLayout): BracketLayout[] {
  const wide = ({ first, last }: Signal) => x(last) - x(first);
  const runs = numbers.signals
    .filter((signal) => signal.pattern !== "beyond-limits" && wide(signal) >= BRACKET_LEAST)
    .sort((a, b) => wide(b) - wide(a))
    .slice(0, BRACKETS_MOST)
    .sort((a, b) => a.first - b.first);
  const placed: BracketLayout[] = [];
  for (const signal of runs) {
    const inside = numbers.points.filter(
      (point) => point.i >= signal.first && point.i <= signal.last && point.value != null,
    );
    const lowest = Math.max(box.top, ...inside.map((point) => y(point.value ?? 0)));
    const left = Math.max(box.left, x(signal.first - 0.35));
    const right = Math.min(box.right, x(signal.last + 0.35));
    let at = Math.min(lowest + 17, box.bottom - 8);
    const clashes = (row: number) =>
      placed.some(
        (other) => Math.abs(other.y - row) < BRACKET_STEP && other.left < right + 4 && other.right > left - 4,
      );
    for (let tries = 0; tries < 12 && clashes(at); tries++) {
      at = at + BRACKET_STEP <= box.bottom - 4 ? at + BRACKET_STEP : at - BRACKET_STEP * (tries + 1);
    }
    placed.push({ signal, left, right, y: Math.max(at, box.top + 8) });
  }
  return placed;
}

/** Labels at the right end, pushed apart so that none covers another. */
export function spreadLabels(wanted: number[], height: number, box: Box): number[] {
  const order = wanted.map((y, index) => ({ y, index })).sort((a, b) => a.y - b.y);
  for (let k = 1; k < order.length; k++) {
    const above = order[k - 1];
    const here = order[k];
    if (above && here && here.y - above.y < height) here.y = above.y + height;
  }
  const overflow = Math.max(0, (order.at(-1)?.y ?? 0) - (box.bottom + 6));
  const out: number[] = [];
  for (const { y, index } of order) out[index] = y - overflow;
  return out;
}

/** The point whose place on the axis is nearest, among those with a value. */
export function nearestPoint(points: PointNumbers[], at: number): PointNumbers | undefined {
  let low = 0;
  let high = points.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    const point = points[middle];
    if (point && point.i < at) low = middle + 1;
    else high = middle;
  }
  const [before, after] = [points[low - 1], points[low]];
  return before && after && at - before.i < after.i - at ? before : (after ?? before);
}
