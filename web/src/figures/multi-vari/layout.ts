import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["MultiVariNumbers"];
export type Cell = Numbers["cells"][number];
export type Band = Numbers["bands"][number];
export type Group = Numbers["groups"][number][number];

/** A group with where it lies along the axis. */
export type Spanned = { group: Group; left: number; right: number; middle: number };
/** A row of labels under the figure; only those that have room. */
export type Tier = {
  y: number;
  name: string;
  level: number;
  labels: { words: string; x: number; left: number; right: number }[];
};

export type Layout = {
  /** Values. */
  box: Box;
  /** Spread within each cell. */
  strip: Box;
  /** The families, at the right. */
  families: { left: number; right: number; top: number; apart: number };
  y: Scale;
  spread: Scale;
  /** Where a cell stands, by its number. */
  x: (at: number) => number;
  cells: (Cell & { x: number })[];
  bands: (Band & { left: number; right: number })[];
  /** The groups of each factor but the innermost. */
  groups: Spanned[][];
  tiers: Tier[];
  /** What the strip shows: the reach of each cell, or of the groups that hold single values. */
  spreads: { key: number; x: number; wide: number; reach: number }[];
  /** Half of what a cell has of the axis. */
  half: number;
};

const MARGIN = { left: 78, top: 56, bottom: 10 };
const FAMILIES = 216;
const STRIP = 62;
const TIER = 17;
const LETTER = 6.4;

/** How much wider the gap before a cell is at which an outer level begins. */
const gapBefore = (levels: string[], before: string[] | undefined) => {
  if (!before) return 0;
  const outermost = levels.findIndex((label, place) => label !== before[place]);
  return 0.7 * Math.max(0, levels.length - 1 - outermost);
};

/** Cells side by side with a gap where an outer level begins; every value, their means, and the spread below. */
export function placeLevels(numbers: Numbers, width: number, height: number): Layout {
  const { cells, bands, groups, factors } = numbers;
  const tiersHigh = factors.length * TIER + 8;
  const right = Math.max(MARGIN.left + 160, width - FAMILIES - 30);
  const bottom = Math.max(260, height - MARGIN.bottom) - tiersHigh;
  const strip = { left: MARGIN.left, right, top: bottom - STRIP, bottom };
  const box = { left: MARGIN.left, right, top: MARGIN.top, bottom: strip.top - 22 };
  const first = cells[0]?.at ?? bands[0]?.first ?? 0;
  const places: number[] = [];
  cells.forEach((cell, place) => {
    places.push((places[place - 1] ?? -1) + 1 + gapBefore(cell.levels, cells[place - 1]?.levels));
  });
  const last = bands.at(-1)?.last ?? first;
  const reach = cells.length > 0 ? (places.at(-1) ?? 0) : last - first;
  const along = scaleLinear([-0.6, reach + 0.6], [box.left, box.right]);
  const x = (at: number) => along(cells.length > 0 ? (places[at - first] ?? 0) : at - first);
  const half = Math.min(26, Math.abs(along(0.5) - along(0)));
  const [low = 0, high = 1] = numbers.extent;
  const pad = (high - low || Math.abs(high) || 1) * 0.04;
  const ends = [first, cells.at(-1)?.at ?? last] as const;
  const spanned = groups.map((level) =>
    level.map((group) => {
      const [from, to] = [Math.max(group.first, ends[0]), Math.min(group.last, ends[1])];
      const [left, right] = [x(from) - half * 0.9, x(to) + half * 0.9];
      return { group, left, right, middle: (left + right) / 2 };
    }),
  );
  const innermost = cells.map((cell) => {
    const at = x(cell.at);
    return { words: cell.levels.at(-1) ?? "", x: at, left: at - half, right: at + half };
  });
  const outer = spanned.map((level) =>
    level.map(({ group, left, right, middle }) => ({ words: group.label, x: middle, left, right })),
  );
  const tiers = [...outer, innermost].reverse().map((labels, place) => ({
    y: bottom + 16 + TIER * place,
    name: factors[factors.length - 1 - place]?.name ?? "",
    level: factors.length - 1 - place,
    labels: thinned(labels),
  }));
  const thick = Math.max(1, Math.min(9, half));
  const held = numbers.single ? (spanned.at(-1) ?? []) : [];
  const spreads = [
    ...held.map(({ group, middle }) => ({
      key: group.first,
      x: middle,
      wide: thick * 1.6,
      reach: group.high - group.low,
    })),
    ...(numbers.single ? [] : cells).map(({ at, low, high }) => ({
      key: at,
      x: x(at),
      wide: thick,
      reach: high - low,
    })),
  ];
  return {
    box,
    strip,
    spreads,
    families: { left: right + 30, right: width - 16, top: MARGIN.top + 34, apart: 58 },
    y: scaleLinear([low - pad, high + pad], [box.bottom, box.top]),
    spread: scaleLinear([0, numbers.widest || 1], [strip.bottom, strip.top + 4]),
    x,
    cells: cells.map((cell) => ({ ...cell, x: x(cell.at) })),
    bands: bands.map((band) => ({ ...band, left: x(band.first) - half, right: x(band.last) + half })),
    groups: spanned,
    tiers,
    half,
  };
}

/** With fewer labels than one in so many they tell nothing. */
const THIN_MOST = 4;

/** Labels that fit their places; where few do, as many as there is room for, evenly. */
function thinned<T extends { words: string; x: number }>(labels: T[]): T[] {
  const wide = Math.max(8, ...labels.map(({ words }) => Math.min(10, words.length) * LETTER + 6));
  const apart = labels.length > 1 ? ((labels.at(-1)?.x ?? 0) - (labels[0]?.x ?? 0)) / (labels.length - 1) : 999;
  const step = Math.max(1, Math.ceil(wide / Math.max(1, apart)));
  if (step > THIN_MOST) return [];
  return labels
    .filter((_, place) => place % step === 0)
    .map((one) => ({ ...one, words: one.words.length > 10 ? `${one.words.slice(0, 9)}…` : one.words }));
}

/** Means of siblings as lines, one for each parent. */
export function links(layout: Layout, level: number): string[] {
  const { groups, y } = layout;
  const parents = new Map<number, string[]>();
  const own =
    level < groups.length
      ? (groups[level] ?? []).map(({ group, middle }) => ({ parent: group.parent, x: middle, mean: group.mean }))
      : layout.cells.map((cell) => ({
          parent: groups.at(-1)?.findIndex(({ group }) => cell.at >= group.first && cell.at <= group.last) ?? 0,
          x: cell.x,
          mean: cell.mean,
        }));
  for (const { parent, x, mean } of own) {
    const line = parents.get(parent) ?? [];
    line.push(`${x} ${y(mean)}`);
    parents.set(parent, line);
  }
  return [...parents.values()].filter((line) => line.length > 1).map((line) => `M${line.join("L")}`);
}
