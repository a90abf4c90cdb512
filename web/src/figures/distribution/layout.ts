import { type ScaleLinear, scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";

export type Numbers = Schema["DistributionNumbers"];
export type Group = Schema["GroupNumbers"];
export type Bin = Schema["HistogramBin"];
export type Box = { left: number; right: number; top: number; bottom: number };
export type Scale = ScaleLinear<number, number>;
export type Fence = { side: "lsl" | "usl"; value: number };

/** One group placed on the page. */
export type Cell = { group: Group; index: number; box: Box; x: Scale; showsAxis: boolean };

/** More groups than this are told, not drawn. */
export const GROUPS_DRAWN = 30;
const TOP = 44;
const FOOT = 46;
const LABEL = 17;
/** A fence is drawn while it lies within this share of the span beyond it. */
const FENCE_REACH = 0.6;

export function fencesNear(numbers: Numbers, limits: { lsl?: number | null; usl?: number | null }): Fence[] {
  const [low = 0, high = 1] = numbers.span;
  const reach = (high - low || 1) * FENCE_REACH;
  const sides = [
    { side: "lsl" as const, value: limits.lsl },
    { side: "usl" as const, value: limits.usl },
  ];
  return sides.flatMap(({ side, value }) =>
    value != null && value >= low - reach && value <= high + reach ? [{ side, value }] : [],
  );
}

/** The values that a cell must have room for. */
function domain(groups: Group[], fences: Fence[]): [number, number] {
  const ends = groups.flatMap((group) => [group.min, group.max, group.bins[0]?.from, group.bins.at(-1)?.to]);
  const all = [...ends.filter((value): value is number => value != null), ...fences.map((fence) => fence.value)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = (high - low || Math.abs(high) || 1) * 0.03;
  return [low - pad, high + pad];
}

/** The groups in a grid: one column for few, more for many, so that each stays readable. */
export function placeCells(numbers: Numbers, width: number, height: number, fences: Fence[], inRows: boolean): Cell[] {
  const groups = numbers.groups.filter((group) => group.n > 0).slice(0, GROUPS_DRAWN);
  const columns = inRows || groups.length <= 6 ? 1 : groups.length <= 14 ? 2 : 3;
  const rows = Math.ceil(groups.length / columns);
  const left = inRows ? Math.min(190, 40 + longest(groups) * 6.6) : 52;
  const wide = (width - left - 24 - (columns - 1) * 40) / columns;
  const high = Math.max(14, (height - TOP - FOOT) / rows);
  const common = domain(groups, fences);
  return groups.map((group, index) => {
    const column = Math.floor(index / rows);
    const row = index % rows;
    const from = left + column * (wide + 40);
    const labelled = !inRows && group.label != null ? LABEL : 0;
    const box = {
      left: from,
      right: from + wide,
      top: TOP + row * high + labelled,
      bottom: TOP + (row + 1) * high - (rows > 1 ? Math.min(12, high * 0.16) : 0),
    };
    const x = scaleLinear(numbers.same_scale ? common : domain([group], fences), [box.left, box.right]);
    const last = row === rows - 1 || index === groups.length - 1;
    return { group, index, box, x, showsAxis: last || !numbers.same_scale };
  });
}

const longest = (groups: Group[]) => Math.max(...groups.map((group) => group.label?.length ?? 0));

/** A width as a person would say it: two leading digits. */
export function roundWidth(width: number): number {
  const power = 10 ** (Math.floor(Math.log10(width)) - 1);
  return Number((Math.round(width / power) * power).toPrecision(2));
}
