import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["RelationNumbers"];
export type Point = Numbers["points"][number];
export type Edge = { left: number; top: number; wide: number; high: number };

export type Layout = {
  box: Box;
  x: Scale;
  y: Scale;
  /** Bars of x over the points, and of y at their right. */
  over: Edge[];
  beside: Edge[];
  /** Cells with counts, where points are many. */
  cells: (Edge & { share: number })[];
};

const MARGIN = { left: 68, right: 78, top: 104, bottom: 58 };
const EDGE = 46;

/** A range with some room, wide enough for the bands where these are near. */
function ranged(low: number, high: number, reach: number[]): [number, number] {
  const span = high - low || Math.abs(high) || 1;
  const near = reach.filter((value) => value > low - span * 0.4 && value < high + span * 0.4);
  const [least, most] = [Math.min(low, ...near), Math.max(high, ...near)];
  const pad = (most - least || span) * 0.04;
  return [least - pad, most + pad];
}

/** Points on two axes with the bars of each along its edge. */
export function placeRelation(numbers: Numbers, width: number, height: number): Layout {
  const box = {
    left: MARGIN.left,
    right: Math.max(MARGIN.left + 100, width - MARGIN.right),
    top: MARGIN.top,
    bottom: Math.max(MARGIN.top + 80, height - MARGIN.bottom),
  };
  const [along, upward] = numbers.bars as [Numbers["bars"][number], Numbers["bars"][number]];
  const bands = numbers.fit?.curve.flatMap(({ y, point_reach }) => [y - point_reach, y + point_reach]) ?? [];
  const out = numbers.left_out ?? [];
  const x = scaleLinear(
    ranged(
      along.low,
      along.high,
      out.map((point) => point.x),
    ),
    [box.left, box.right],
  );
  const y = scaleLinear(ranged(upward.low, upward.high, [...bands, ...out.map((point) => point.y)]), [
    box.bottom,
    box.top,
  ]);
  const most = (counts: number[]) => Math.max(1, ...counts);
  const over = along.counts.map((count, place) => {
    const step = (along.high - along.low) / along.counts.length || (x.invert(1) - x.invert(0)) * 8;
    const high = (EDGE * count) / most(along.counts);
    const left = x(along.low + step * place);
    return { left, top: box.top - 6 - high, wide: Math.max(1, x(along.low + step * (place + 1)) - left - 1), high };
  });
  const beside = upward.counts.map((count, place) => {
    const step = (upward.high - upward.low) / upward.counts.length || (y.invert(0) - y.invert(1)) * 8;
    const wide = (EDGE * count) / most(upward.counts);
    const top = y(upward.low + step * (place + 1));
    return { left: box.right + 6, top, wide, high: Math.max(1, y(upward.low + step * place) - top - 1) };
  });
  const { cells } = numbers;
  const fullest = Math.max(1, ...(cells?.counts ?? []));
  const drawn = (cells?.counts ?? []).flatMap((count, place) => {
    if (!cells || count === 0) return [];
    const [dx, dy] = [(along.high - along.low) / cells.across, (upward.high - upward.low) / cells.up];
    const [column, row] = [place % cells.across, Math.floor(place / cells.across)];
    const left = x(along.low + dx * column);
    const top = y(upward.low + dy * (row + 1));
    return [
      {
        left,
        top,
        wide: x(along.low + dx * (column + 1)) - left,
        high: y(upward.low + dy * row) - top,
        // A cell with one point is seen beside one with thousands.
        share: 0.08 + 0.92 * Math.sqrt(count / fullest),
      },
    ];
  });
  return { box, x, y, over, beside, cells: drawn };
}

/** The path of a band, along its upper end and back along its lower one. */
export function bandPath(numbers: Numbers, { x, y }: Layout, reach: "mean_reach" | "point_reach"): string {
  const curve = numbers.fit?.curve ?? [];
  const upper = curve.map((at) => `${x(at.x)} ${y(at.y + at[reach])}`);
  const lower = curve.map((at) => `${x(at.x)} ${y(at.y - at[reach])}`).reverse();
  return curve.length > 1 ? `M${[...upper, ...lower].join("L")}Z` : "";
}

/** The points inside a box of pixels, whichever corner it was begun at. */
export function inside(
  points: Point[],
  { x, y }: Pick<Layout, "x" | "y">,
  [a, b]: [[number, number], [number, number]],
) {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  return points.filter((point) => {
    const [px, py] = [x(point.x), y(point.y)];
    return px >= left && px <= right && py >= top && py <= bottom;
  });
}
