import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["AssociationNumbers"];
export type Table = Schema["AssociationTable"];

/** What tiles show: a bar, and a tick to hold it against. */
export type Matrix = {
  values: (number | null)[][];
  ticks: (number | null)[][] | null;
};

export type Tile = {
  row: number;
  column: number;
  box: Box;
  /** Where the bar ends and the tick stands; null where there is none. */
  bar: number | null;
  tick: number | null;
  /** 1 or −1 where it stands out. */
  stands: number;
};

export type Layout = {
  tiles: Tile[];
  rows: { label: string; y: number; total: number }[];
  columns: { label: string; x: number; total: number }[];
  /** Lengths of totals, along the right and the lower edge. */
  across: Scale;
  down: Scale;
  grid: Box;
  high: number;
  wide: number;
};

/** Room around the grid: names at the left and on top, totals at the right and below. */
export type Room = { left: number; right: number; top: number; bottom: number };
export const ROOM: Room = { left: 150, right: 92, top: 88, bottom: 62 };
export const TIGHT: Room = { left: 4, right: 4, top: 22, bottom: 4 };

const HIGH_MOST = 74;
const GAP = 5;
const INSET = 7;

/** The table as it is drawn. */
export const drawnOf = (numbers: Numbers): Table => numbers.drawn ?? numbers;

export const largest = (matrix: Matrix): number =>
  Math.max(1e-300, ...[...matrix.values, ...(matrix.ticks ?? [])].flat().map((value) => value ?? 0));

/** A tile for each cell in a box; bars and ticks of all tiles on one scale, up to `most`. */
export function placeTiles(table: Table, matrix: Matrix, box: Box, room: Room = ROOM, most = largest(matrix)): Layout {
  const { rows, columns } = table;
  const right = Math.max(box.left + room.left + 40, box.right - room.right);
  const wide = (right - box.left - room.left) / columns.length;
  const space = Math.max(20, box.bottom - box.top - room.top - room.bottom);
  const high = Math.min(HIGH_MOST, space / rows.length);
  const grid = {
    left: box.left + room.left,
    right,
    top: box.top + room.top,
    bottom: box.top + room.top + high * rows.length,
  };
  const inset = Math.min(INSET, wide / 8);
  const tiles = rows.flatMap((_, row) =>
    columns.map((_, column) => {
      const left = grid.left + wide * column;
      const top = grid.top + high * row;
      const tile = {
        left: left + GAP / 2,
        right: left + wide - GAP / 2,
        top: top + GAP / 2,
        bottom: top + high - GAP / 2,
      };
      const x = scaleLinear([0, most], [tile.left + inset, tile.right - inset]);
      const at = (value: number | null | undefined) => (value == null ? null : x(value));
      return {
        row,
        column,
        box: tile,
        bar: at(matrix.values[row]?.[column]),
        tick: at(matrix.ticks?.[row]?.[column]),
        stands: table.stands_out[row]?.[column] ?? 0,
      };
    }),
  );
  const top = (totals: number[]) => Math.max(1e-300, ...totals);
  return {
    tiles,
    rows: rows.map((label, row) => ({ label, y: grid.top + high * (row + 0.5), total: table.row_totals[row] ?? 0 })),
    columns: columns.map((label, column) => ({
      label,
      x: grid.left + wide * (column + 0.5),
      total: table.column_totals[column] ?? 0,
    })),
    across: scaleLinear([0, top(table.row_totals)], [0, Math.max(8, room.right - 54)]),
    down: scaleLinear([0, top(table.column_totals)], [0, Math.max(6, room.bottom - 36)]),
    grid,
    high,
    wide,
  };
}

/** Boxes of small tables side by side, as many in a row as fit. */
export function placeLayers(count: number, width: number, height: number): Box[] {
  const across = Math.min(count, width > 900 ? 4 : width > 560 ? 3 : 2);
  const down = Math.ceil(count / Math.max(1, across));
  const [wide, high] = [(width - 32) / Math.max(1, across), (height - 62) / Math.max(1, down)];
  return Array.from({ length: count }, (_, place) => {
    const left = 16 + wide * (place % across);
    const top = 48 + high * Math.floor(place / across);
    return { left, right: left + wide - 14, top, bottom: top + high - 8 };
  });
}
