import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["ParetoNumbers"];
export type Ranking = Numbers["overall"];

/** A row of the figure: a kind, or all that is folded. */
export type Row = { label: string; count: number; share: number | null; cumulative: number | null; folded: boolean };

/** A group beside the others, its bars in the rows of the whole. */
export type Column = { label: string; box: Box; x: Scale; counts: number[]; total: number; leader: number };

export type Layout = {
  rows: Row[];
  /** Rows that have no room. */
  unseen: number;
  top: number;
  high: number;
  names: number;
  columns: Column[];
  /** Where the cumulative share runs down, from nothing to all; absent beside groups. */
  stair: { left: number; right: number } | null;
};

const TOP = 66;
const BOTTOM = 16;
const NAMES = 168;
const STAIR = 132;
const HIGH = { least: 14, most: 30 };
const COUNT_ROOM = 112;
/** Groups side by side; the ledger has all. */
export const COLUMNS_MOST = 6;

const rowsOf = ({ bars, other }: Ranking): Row[] => [
  ...bars.map(({ category, count, share, cumulative }) => ({
    label: category,
    count,
    share: share ?? null,
    cumulative: cumulative ?? null,
    folded: false,
  })),
  ...(other
    ? [
        {
          label: `${other.categories} other ${other.categories === 1 ? "kind" : "kinds"}`,
          count: other.count,
          share: other.share ?? null,
          cumulative: other.share == null ? null : 1,
          folded: true,
        },
      ]
    : []),
];

export function placeRows(numbers: Numbers, width: number, height: number): Layout {
  const all = rowsOf(numbers.overall);
  const room = height - TOP - BOTTOM;
  const fits = Math.max(1, Math.floor(room / HIGH.least));
  // What is folded is always in sight.
  const rows = all.length <= fits ? all : [...all.slice(0, fits - 1), ...all.slice(-1).filter(({ folded }) => folded)];
  const high = Math.max(HIGH.least, Math.min(HIGH.most, room / rows.length));
  const grouped = numbers.groups.length > 0;
  const rankings = grouped ? [numbers.overall, ...numbers.groups.slice(0, COLUMNS_MOST)] : [numbers.overall];
  const right = width - 24 - (grouped ? 0 : STAIR);
  const wide = (right - NAMES) / rankings.length;
  const columns = rankings.map((ranking, place) => {
    const left = NAMES + wide * place;
    const box = { left, right: left + wide - 18, top: TOP, bottom: TOP + high * rows.length };
    const counts = aligned(ranking, all.length).slice(0, rows.length);
    if (all.length > rows.length && rows.at(-1)?.folded) counts[rows.length - 1] = ranking.aligned.at(-1) ?? 0;
    const room = grouped ? 46 : COUNT_ROOM;
    return {
      label: ranking.label || "all",
      box,
      x: scaleLinear([0, Math.max(...counts, 1e-300)], [0, Math.max(10, box.right - box.left - room)]),
      counts,
      total: ranking.total,
      leader: rows.findIndex(({ label }) => label === ranking.bars[0]?.category),
    };
  });
  return {
    rows,
    unseen: all.length - rows.length,
    top: TOP,
    high,
    names: NAMES,
    columns,
    stair: grouped ? null : { left: right + 16, right: width - 34 },
  };
}

/** Counts in the rows of the whole; without folding there is nothing of the rest. */
const aligned = ({ aligned }: Ranking, rows: number): number[] => aligned.slice(0, rows);

/** How many kinds stand by themselves when the grip is at a height: at least one. */
export const keptAt = (y: number, top: number, high: number, kinds: number): number =>
  Math.max(1, Math.min(kinds, Math.round((y - top) / high)));

/** The cumulative share as a stair down the rows. */
export function stairPath({ rows, top, high, stair }: Layout): string {
  if (!stair) return "";
  const x = scaleLinear([0, 1], [stair.left, stair.right]);
  return rows
    .map(
      ({ cumulative }, place) =>
        `${place === 0 ? `M${x(0)} ${top}` : ""}H${x(cumulative ?? 0)}V${top + high * (place + 1)}`,
    )
    .join("");
}
