import type { Schema } from "../../api/client";

export type Numbers = Schema["MatrixNumbers"];

export type Layout = { left: number; top: number; side: number; tall: number };

const MARGIN = { left: 112, right: 18, top: 44, bottom: 22 };

/** An even square of cells, as large as there is room for. */
export function placeCells(numbers: Numbers, width: number, height: number): Layout {
  const k = numbers.columns.length;
  return {
    left: MARGIN.left,
    top: MARGIN.top,
    side: Math.max(18, (width - MARGIN.left - MARGIN.right) / k),
    tall: Math.max(16, (height - MARGIN.top - MARGIN.bottom) / k),
  };
}

/** The points of a pair on scales from 0 to 1, up and to the right. */
export function pointsOf({ sample, columns }: Numbers, across: number, up: number): [number, number][] {
  const scaled = (at: number, value: number) => {
    const { low = 0, high = 1 } = columns[at]?.bars ?? {};
    return high > low ? (value - low) / (high - low) : 0.5;
  };
  return (sample[across] ?? []).flatMap((x, row) => {
    const y = sample[up]?.[row];
    return x == null || y == null ? [] : [[scaled(across, x), scaled(up, y)] as [number, number]];
  });
}

/** Every pair once, row by row as they are gone through by key. */
export const pairsOf = (numbers: Numbers): [number, number][] =>
  numbers.columns.flatMap((_, row) =>
    numbers.columns.slice(0, row).map((_, column) => [row, column] as [number, number]),
  );
