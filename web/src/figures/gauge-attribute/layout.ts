import type { Schema } from "../../api/client";

export type Numbers = Schema["GaugeAttributeNumbers"];
export type GridPart = Schema["GridPart"];

/** Pieces as columns in as many bands as make their cells the largest, operators as rows of looks, their agreement beside. */
export type Layout = {
  left: number;
  /** Side of a cell. */
  cell: number;
  /** Width of a column and height of a look. */
  wide: number;
  high: number;
  /** The pieces that have room, band after band. */
  parts: GridPart[];
  /** Pieces of a band. */
  each: number;
  /** Top of a band, and how high its rows are. */
  top: (band: number) => number;
  deep: number;
  /** Top of the looks of an operator in a band, and of the reference. */
  row: (band: number, operator: number) => number;
  hasReference: boolean;
  /** Where agreement stands. */
  shares: { left: number; right: number };
};

const LEFT = 108;
const SHARES = 190;
const TOP = 86;
const NARROW = 13;
const NAMES = 58;
const GAP = 12;
const BANDS_MOST = 4;

export function placeGrid(numbers: Numbers, width: number, height: number, byName: boolean): Layout {
  const room = width - LEFT - SHARES - 40;
  const hasReference = numbers.all_against != null;
  const groups = numbers.operators.length + (hasReference ? 1 : 0);
  const looks = numbers.operators.length * numbers.trials + (hasReference ? 1 : 0);
  const of = (bands: number) => {
    const each = Math.ceil(numbers.grid.length / bands);
    const wide = Math.max(NARROW, Math.min(34, room / each));
    const high = Math.max(8, Math.min(30, ((height - TOP) / bands - NAMES - GAP * groups) / looks));
    return { bands, wide, high, cell: Math.max(5, Math.min(wide, high) - 4) };
  };
  const { bands, wide, high, cell } = Array.from({ length: BANDS_MOST }, (_, k) => of(k + 1)).reduce((best, other) =>
    other.cell > best.cell + 0.5 ? other : best,
  );
  const fits = Math.max(1, Math.floor(room / wide));
  const shown = numbers.grid.slice(0, fits * bands);
  const each = Math.ceil(shown.length / bands);
  const deep = looks * high + GAP * (groups - 1);
  const top = (band: number) => TOP + band * (deep + NAMES + GAP);
  const first = hasReference ? high + GAP : 0;
  const left = LEFT + wide * each + 26;
  return {
    left: LEFT,
    cell,
    wide,
    high,
    parts: byName ? [...shown].sort((a, b) => a.part - b.part) : shown,
    each,
    top,
    deep,
    row: (band, operator) => top(band) + first + operator * (numbers.trials * high + GAP),
    hasReference,
    shares: { left, right: Math.min(width - 24, left + SHARES) },
  };
}

/** Where a piece stands: its band, and the middle of its column. */
export function placeOf({ left, wide, each }: Layout, place: number): { band: number; x: number } {
  return { band: Math.floor(place / each), x: left + wide * ((place % each) + 0.5) };
}
