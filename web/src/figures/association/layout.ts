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
  /** What stands at the left and on top: rows and columns, or turned the other way round. */
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
export const TIGHT: Room = { left: 4, right: 4, top: 38, bottom: 4 };

const HIGH_MOST = 96;
/** A table so much wider than high is drawn turned: its many names are legible at the left. */
const TURNED_FROM = 3;
/** A lower tile has its number beside the bar. */
export const LOW = 42;
const GAP = 5;
const INSET = 7;

/** The table as it is drawn. */
export const drawnOf = (numbers: Numbers): Table => numbers.drawn ?? numbers;

export const largest = (matrix: Matrix): number =>
  Math.max(1e-300, ...[...matrix.values, ...(matrix.ticks ?? [])].flat().map((value) => value ?? 0));

export const isTurned = ({ rows, columns }: Table): boolean => columns.length > rows.length + TURNED_FROM;

/** A tile for each cell in a box; bars and ticks of all tiles on one scale, up to `most`. */
export function placeTiles(table: Table, matrix: Matrix, box: Box, room: Room = ROOM, most = largest(matrix)): Layout {
  const turned = isTurned(table);
  const [down, across] = turned ? [table.columns, table.rows] : [table.rows, table.columns];
  const [downTotals, acrossTotals] = turned
    ? [table.column_totals, table.row_totals]
    : [table.row_totals, table.column_totals];
  const right = Math.max(box.left + room.left + 40, box.right - room.right);
  const wide = (right - box.left - room.left) / across.length;
  const space = Math.max(20, box.bottom - box.top - room.top - room.bottom);
  const high = Math.min(HIGH_MOST, space / down.length);
  const grid = {
    left: box.left + room.left,
    right,
    top: box.top + room.top,
    bottom: box.top + room.top + high * down.length,
  };
  const inset = Math.min(INSET, wide / 8);
  const gap = Math.min(GAP, high / 8);
  const beside = high - gap < LOW && wide > 90 ? 56 : 0;
  const tiles = down.flatMap((_, y) =>
    across.map((_, x) => {
      const [row, column] = turned ? [x, y] : [y, x];
      const left = grid.left + wide * x;
      const top = grid.top + high * y;
      const tile = {
        left: left + gap / 2,
        right: left + wide - gap / 2,
        top: top + gap / 2,
        bottom: top + high - gap / 2,
      };
      const scale = scaleLinear([0, most], [tile.left + inset, tile.right - inset - beside]);
      const at = (value: number | null | undefined) => (value == null ? null : scale(value));
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
    rows: down.map((label, y) => ({ label, y: grid.top + high * (y + 0.5), total: downTotals[y] ?? 0 })),
    columns: across.map((label, x) => ({ label, x: grid.left + wide * (x + 0.5), total: acrossTotals[x] ?? 0 })),
    across: scaleLinear([0, top(downTotals)], [0, Math.max(8, room.right - 54)]),
    down: scaleLinear([0, top(acrossTotals)], [0, Math.max(6, room.bottom - 36)]),
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
