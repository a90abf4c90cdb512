import type { Schema } from "../../api/client";

export type Numbers = Schema["ScreeningNumbers"];
export type Found = Numbers["results"][number];

export type Row = { found: Found; top: number };
export type Layout = {
  rows: Row[];
  high: number;
  /** Where names end, the bars begin and end, and the pictures begin and end. */
  names: number;
  bars: { left: number; right: number };
  picture: { left: number; right: number };
  /** The end of the scale: no longer than the longest bar needs. */
  whole: number;
  untold: number;
};

const ENDS = [0.02, 0.05, 0.1, 0.25, 0.5, 1];

const MARGIN = { left: 18, right: 20, top: 62, bottom: 26 };
const HIGHEST = 92;
const LEAST = 30;

/** A row for each column that was tried, the one that explains most on top; as many as there is room for. */
export function placeRows(numbers: Numbers, width: number, height: number): Layout {
  const room = Math.max(200, height) - MARGIN.top - MARGIN.bottom;
  const fit = Math.max(1, Math.min(numbers.results.length, Math.floor(room / LEAST)));
  const high = Math.min(HIGHEST, room / fit);
  const names = MARGIN.left + Math.min(190, width * 0.24);
  const picture = { left: width - MARGIN.right - Math.min(210, width * 0.26), right: width - MARGIN.right };
  return {
    rows: numbers.results.slice(0, fit).map((found, place) => ({ found, top: MARGIN.top + high * place })),
    high,
    names,
    bars: { left: names + 12, right: picture.left - 138 },
    whole: ENDS.find((end) => numbers.results.every(({ explained }) => (explained ?? 0) <= end)) ?? 1,
    picture,
    untold: numbers.results.length - fit,
  };
}
