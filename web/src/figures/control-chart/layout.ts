import { extent } from "d3-array";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";

type Numbers = Schema["ControlChartNumbers"];
export type PanelNumbers = Schema["PanelNumbers"];
export type PointNumbers = Schema["PointNumbers"];
export type Signal = Schema["Signal"];

export type Box = { left: number; right: number; top: number; bottom: number };
export type Scale = ScaleLinear<number, number>;
export type Fence = { side: "lsl" | "usl"; value: number };

/** One panel placed on the page. */
export type PanelLayout = {
  index: number;
  numbers: PanelNumbers;
  box: Box;
  x: Scale;
  y: Scale;
  /** Specification limits that lie within reach of the values. */
  fences: Fence[];
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
  const lowers = numbers.panels.length - 1;
  const gap = lowers > 1 ? GAP - 18 : GAP;
  // A window too low for the figure gets it cut off at the foot rather than turned inside out.
  const free = Math.max(160, height - MARGIN.top - MARGIN.bottom - gap * lowers);
  const lower = lowers > 0 ? Math.max(54, free * (lowers > 1 ? LOWER_SHARE - 0.04 : LOWER_SHARE)) : 0;
  const heights = numbers.panels.map((_, index) => (index === 0 ? free - lower * lowers : lower));
  const left = MARGIN.left;
  const right = width - MARGIN.right;
  const x = scaleLinear([first - 0.5, Math.max(last, first + 1) + 0.5], [left, right]);
  let top = MARGIN.top;
  return numbers.panels.map((panel, index) => {
    const box = { left, right, top, bottom: top + (heights[index] ?? 0) };
    top = box.bottom + gap;
    const fences = index === 0 && numbers.single_values ? nearFences(panel, limits) : [];
    const y = valueScale(panel.span, fences, box, neverNegative(panel));
    const layout: PanelLayout = { index, numbers: panel, box, x, y, fences, brackets: [] };
    return { ...layout, brackets: placeBrackets(layout) };
  });
}

const NEVER_NEGATIVE = new Set([
  "moving-range",
  "range",
  "sd",
  "proportion",
  "count",
  "rate",
  "pieces-between",
  "time-between",
]);

/** Whether what is plotted can never lie below 0, so that a lower limit of 0 is a floor and no limit. */
export const neverNegative = (panel: PanelNumbers) => NEVER_NEGATIVE.has(panel.name);

function nearFences(panel: PanelNumbers, limits: Limits): Fence[] {
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

export function valueScale(span: PanelNumbers["span"], fences: Fence[], box: Box, floored: boolean): Scale {
  const [low = 0, high = 1] = extent([...(span ?? [0, 1]), ...fences.map((fence) => fence.value)]) as [number, number];
  const pad = (high - low || Math.abs(high) || 1) * 0.08;
  // From 0 where 0 is near; a share of 3 to 5 % would else be a line at the top.
  const domain = [floored && low < 0.6 * high ? 0 : low - pad, high + pad];
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

/** A stretch of points that share their lines, or one step of lines that vary. */
export type Step = { from: number; to: number; phase: number; point: LinesAt };
export type LinesAt = Pick<PointNumbers, "center" | "lcl" | "ucl" | "sigma">;

/** The lines of a panel as steps along the x axis: one a phase where they hold, one a point where they vary. */
export function steps({ numbers, x, box }: PanelLayout): Step[] {
  const [low = 0, high = 0] = x.domain();
  const inside = (place: number) => Math.max(box.left, Math.min(box.right, x(place)));
  const out: Step[] = [];
  for (const phase of numbers.phases) {
    if (phase.last < low || phase.first > high) continue;
    const points = numbers.points.filter((point) => point.i >= phase.first && point.i <= phase.last);
    const varies =
      (phase.ucl == null || phase.lcl == null || phase.center == null) && points.some((p) => p.ucl != null);
    if (!varies) {
      out.push({ from: inside(phase.first - 0.5), to: inside(phase.last + 0.5), phase: phase.first, point: phase });
      continue;
    }
    points.forEach((point, index) => {
      const before = points[index - 1];
      const after = points[index + 1];
      out.push({
        from: inside(before ? (before.i + point.i) / 2 : point.i - 0.5),
        to: inside(after ? (after.i + point.i) / 2 : point.i + 0.5),
        phase: phase.first,
        point,
      });
    });
  }
  return out;
}

/** The path of one line through its steps; interrupted where it is unknown and between phases. */
export function stepPath(all: Step[], y: Scale, value: (at: LinesAt) => number | null | undefined): string {
  let path = "";
  let before: Step | null = null;
  for (const step of all) {
    const at = value(step.point);
    const joined = before !== null && before.phase === step.phase && Math.abs(before.to - step.from) < 0.01;
    if (at != null) path += joined ? `V${y(at)}H${step.to}` : `M${step.from} ${y(at)}H${step.to}`;
    before = at == null ? null : step;
  }
  return path;
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
