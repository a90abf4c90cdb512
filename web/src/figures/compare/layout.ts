import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["CompareNumbers"];
export type Group = Numbers["groups"][number];

export type Column = {
  group: Group;
  /** Its middle, and how far its marks reach to both sides. */
  x: number;
  half: number;
  /** Where its values are drawn. */
  dots: { x: number; y: number }[];
};

/** A pair that differs, as a bracket over the columns. */
export type Bracket = { from: number; to: number; y: number; p: number };

export type Layout = { box: Box; y: Scale; columns: Column[]; brackets: Bracket[]; untold: number };

const MARGIN = { left: 64, right: 96, top: 48, bottom: 44 };
const BRACKET = 14;
const BRACKETS_MOST = 8;

/** Places values of a column side by side by turns, so that equal ones do not cover each other. */
const aside = (place: number) => ((place * 0.618034) % 1) - 0.5;

/** The pairs of the test that the data allow. */
export const pairsOf = (numbers: Numbers) => (numbers.test === "welch" ? numbers.games_howell : numbers.tukey);

/** A column for each group on one axis of values, with brackets over pairs that differ. */
export function placeGroups(numbers: Numbers, width: number, height: number, beside = 0): Layout {
  const { groups } = numbers;
  const differ = pairsOf(numbers)
    .filter(({ p }) => p < 0.05)
    .sort((a, b) => a.p - b.p);
  const told = differ.slice(0, BRACKETS_MOST);
  const box = {
    left: MARGIN.left,
    right: Math.max(MARGIN.left + 120, width - MARGIN.right),
    top: MARGIN.top + BRACKET * told.length,
    bottom: Math.max(160, height - MARGIN.bottom - beside),
  };
  const limits = numbers.anom?.flatMap(({ lcl, ucl }) => [lcl, ucl]) ?? [];
  const ends = groups.flatMap(({ five, ci95 }) => [five[0] ?? 0, five[4] ?? 0, ...(ci95 ?? [])]);
  const all = [...ends, ...limits, ...(numbers.against == null ? [] : [numbers.against])];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = (high - low || Math.abs(high) || 1) * 0.05;
  const y = scaleLinear([low - pad, high + pad], [box.bottom, box.top]);
  const wide = (box.right - box.left) / Math.max(1, groups.length);
  const half = Math.min(54, wide * 0.36);
  const columns = groups.map((group, place) => {
    const x = box.left + wide * (place + 0.5);
    return {
      group,
      x,
      half,
      dots: group.values.map((value, at) => ({ x: x + aside(at + 1) * half * 1.5, y: y(value) })),
    };
  });
  const xOf = (label: string) => columns.find(({ group }) => group.label === label)?.x ?? box.left;
  const brackets = told.map(({ a, b, p }, place) => ({
    from: xOf(a),
    to: xOf(b),
    y: box.top - 10 - BRACKET * place,
    p,
  }));
  return { box, y, columns, brackets, untold: differ.length - told.length };
}
