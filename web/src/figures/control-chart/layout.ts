import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import {
  type BracketLayout,
  type Fence,
  type PanelLayout,
  type PanelNumbers,
  type Signal,
  valueScale,
} from "../../marks/panel-layout";

type Numbers = Schema["ControlChartNumbers"];

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
    const y = valueScale(panel.span, fences, box, panel.never_negative);
    const layout: PanelLayout = { index, numbers: panel, box, x, y, fences, brackets: [] };
    return { ...layout, brackets: placeBrackets(layout) };
  });
}

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
