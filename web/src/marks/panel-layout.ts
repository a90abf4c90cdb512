import { extent } from "d3-array";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import type { Schema } from "../api/client";

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

export function valueScale(span: PanelNumbers["span"], fences: Fence[], box: Box, floored: boolean): Scale {
  const [low = 0, high = 1] = extent([...(span ?? [0, 1]), ...fences.map((fence) => fence.value)]) as [number, number];
  const pad = (high - low || Math.abs(high) || 1) * 0.08;
  // From 0 where 0 is near; a share of 3 to 5 % would else be a line at the top.
  const domain = [floored && low < 0.6 * high ? 0 : low - pad, high + pad];
  return scaleLinear(domain, [box.bottom, box.top]);
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
