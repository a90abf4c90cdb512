import type { Schema } from "../../api/client";

export type Numbers = Schema["GaugeAttributeNumbers"];
export type GridPart = Schema["GridPart"];

/** Pieces as columns, operators as rows of their looks, and each operator's agreement at the right. */
export type Layout = {
  left: number;
  top: number;
  /** Side of a cell. */
  cell: number;
  /** Width of a column and height of a look. */
  wide: number;
  high: number;
  /** The pieces that have room. */
  parts: GridPart[];
  /** Top of the looks of an operator. */
  row: (operator: number) => number;
  /** Top of the row of the reference. */
  reference: number | null;
  bottom: number;
  /** Where agreement stands. */
  shares: { left: number; right: number };
};

const LEFT = 108;
const SHARES = 190;
const TOP = 66;
const NARROW = 13;
const NAMES = 64;

export function placeGrid(numbers: Numbers, width: number, height: number, byName: boolean): Layout {
  const room = width - LEFT - SHARES - 40;
  const shown = numbers.grid.slice(0, Math.max(1, Math.floor(room / NARROW)));
  const parts = byName ? [...shown].sort((a, b) => a.part - b.part) : shown;
  const wide = Math.min(34, room / parts.length);
  const known = numbers.all_against != null;
  const looks = numbers.operators.length * numbers.trials + (known ? 1 : 0);
  const gaps = 14 * (numbers.operators.length + (known ? 1 : 0));
  const high = Math.max(8, Math.min(30, (height - TOP - NAMES - 20 - gaps) / looks));
  const first = TOP + (known ? high + 14 : 0);
  const row = (operator: number) => first + operator * (numbers.trials * high + 14);
  const left = LEFT;
  return {
    left,
    top: TOP,
    cell: Math.max(5, Math.min(wide, high) - 4),
    wide,
    high,
    parts,
    row,
    reference: known ? TOP : null,
    bottom: row(numbers.operators.length) - 14,
    shares: {
      left: left + wide * parts.length + 26,
      right: Math.min(width - 24, left + wide * parts.length + 26 + SHARES),
    },
  };
}
