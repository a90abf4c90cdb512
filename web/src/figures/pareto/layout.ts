import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["ParetoNumbers"];
export type Ranking = Numbers["overall"];

/** A row of the figure: a kind, or all that is folded. */
export type Row = { label: string; count: number; share: number | null; cumulative: number | null; folded: boolean };

/** What stands beside the whole, its bars in the rows of the whole: a group, or the number of what is weighed. */
export type Column = {
  label: string;
  box: Box;
  x: Scale;
  counts: number[];
  total: number;
  leader: number;
  /** Written in the unit of the weight, or as plain numbers. */
  weighed: boolean;
};

/** What is drawn besides the ranking. */
export type Besides = { number?: boolean; alike?: boolean };

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
  /** The counts of the rows if all kinds were alike; none when they are not drawn. */
  alike: number[];
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

export function placeRows(numbers: Numbers, width: number, height: number, besides: Besides = {}): Layout {
  const all = rowsOf(numbers.overall);
  const room = height - TOP - BOTTOM;
  const fits = Math.max(1, Math.floor(room / HIGH.least));
  // What is folded is always in sight.
  const rows = all.length <= fits ? all : [...all.slice(0, fits - 1), ...all.slice(-1).filter(({ folded }) => folded)];
  const high = Math.max(HIGH.least, Math.min(HIGH.most, room / rows.length));
  /** Counts of the rows in sight, of those of all rows. */
  const inSight = (aligned: number[]) => {
    const counts = aligned.slice(0, all.length).slice(0, rows.length);
    if (all.length > rows.length && rows.at(-1)?.folded) counts[rows.length - 1] = aligned.at(-1) ?? 0;
    return counts;
  };
  const grouped = numbers.groups.length > 0;
  const { overall, unweighed } = numbers;
  const drawn = [
    { label: overall.label || "all", from: overall, first: overall.bars[0]?.category, weighed: true },
    ...(besides.number && unweighed
      ? [{ label: "in number", from: unweighed, first: unweighed.leader, weighed: false }]
      : []),
    ...numbers.groups
      .slice(0, COLUMNS_MOST)
      .map((group) => ({ label: group.label, from: group, first: group.bars[0]?.category, weighed: true })),
  ];
  const alike = besides.alike && numbers.alike ? inSight(numbers.alike) : [];
  const right = width - 24 - (grouped ? 0 : STAIR);
  const wide = (right - NAMES) / drawn.length;
  const columns = drawn.map(({ label, from, first, weighed }, place) => {
    const left = NAMES + wide * place;
    const box = { left, right: left + wide - 18, top: TOP, bottom: TOP + high * rows.length };
    const counts = inSight(from.aligned);
    const most = Math.max(...counts, ...(place === 0 ? alike : []), 1e-300);
    const space = grouped ? 46 : COUNT_ROOM;
    return {
      label,
      box,
      x: scaleLinear([0, most], [0, Math.max(10, box.right - box.left - space)]),
      counts,
      total: from.total,
      leader: rows.findIndex(({ label }) => label === first),
      weighed,
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
    alike,
  };
}

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

export type ChangeLayout = {
  rows: { kind: Schema["ParetoKindChange"]; y: number }[];
  unseen: number;
  x: Scale;
  high: number;
};

/** Two bars a kind, before over after, on one scale. */
export function placeChange(change: Schema["ParetoChange"], width: number, height: number): ChangeLayout {
  const room = height - TOP - BOTTOM;
  const rows = change.kinds.slice(0, Math.max(1, Math.floor(room / 22)));
  const high = Math.max(22, Math.min(46, room / rows.length));
  const rates = rows.flatMap(({ rate_before, rate_after }) => [rate_before ?? 0, rate_after ?? 0]);
  return {
    rows: rows.map((kind, place) => ({ kind, y: TOP + high * place })),
    unseen: change.kinds.length - rows.length,
    x: scaleLinear([0, Math.max(...rates, 1e-300)], [NAMES, Math.max(NAMES + 40, width - 250)]),
    high,
  };
}

export type Own = { label: string; box: Box; x: Scale; rows: { row: Row; y: number }[]; high: number; unseen: number };

/** Each group ranked by itself, boxes side by side, shares on one scale. */
export function placeOwn(groups: Ranking[], width: number, height: number): Own[] {
  const shown = groups.slice(0, OWN_MOST);
  const across = Math.min(shown.length, width > 760 ? 3 : 2);
  const down = Math.ceil(shown.length / Math.max(1, across));
  const [wide, tall] = [(width - 24) / Math.max(1, across), (height - 44) / Math.max(1, down)];
  const most = Math.max(
    1e-300,
    ...shown.flatMap(({ bars, other }) => [...bars.map(({ share }) => share ?? 0), other?.share ?? 0]),
  );
  return shown.map((group, place) => {
    const left = 16 + wide * (place % across);
    const top = 44 + tall * Math.floor(place / across);
    const box = { left, right: left + wide - 20, top: top + 22, bottom: top + tall - 12 };
    const all = rowsOf(group);
    const fits = Math.max(1, Math.floor((box.bottom - box.top) / HIGH.least));
    const rows = all.length <= fits ? all : all.slice(0, fits);
    const high = Math.min(24, (box.bottom - box.top) / rows.length);
    return {
      label: group.label,
      box,
      x: scaleLinear([0, most], [0, Math.max(20, (box.right - box.left) * 0.5 - 44)]),
      rows: rows.map((row, at) => ({ row, y: box.top + high * at })),
      high,
      unseen: all.length - rows.length,
    };
  });
}

/** Groups that are ranked by themselves side by side. */
const OWN_MOST = 9;
