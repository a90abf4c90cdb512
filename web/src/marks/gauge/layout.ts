import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Fence, Scale } from "../panel-layout";

/** What the staircase is drawn from; gauge studies of crossed and of nested parts have it alike. */
export type Numbers = Pick<
  Schema["GaugeCrossedNumbers"],
  | "n"
  | "parts"
  | "operators"
  | "bias_limits"
  | "sd_limits"
  | "spreads"
  | "basis"
  | "basis_wide"
  | "share"
  | "ndc"
  | "lsl"
  | "usl"
  | "writer"
>;

/** A reading in the figure: its place, and what it is. */
export type Mark = { x: number; value: number; part: number; operator: number };

/** The stairs, the rulers beside them on the same axis, and the strip of operators underneath. */
export type Staircase = {
  y: Scale;
  stairs: Box;
  /** Width of a step. */
  step: number;
  marks: Mark[];
  /** Too many parts for single readings: one stroke a part. */
  crowded: boolean;
  fences: Fence[];
  rulers: Box;
  /** The middle of the rulers, and how wide the basis is. */
  middle: number;
  strip: Box;
};

const MARGIN = { left: 58, right: 30, top: 54 };
const STRIP = { least: 84, row: 21, head: 44 };
const FOOT = 34;
/** The rulers take so much of the width. */
const RULERS = 0.25;
/** A step narrower than this has no room for single readings. */
const NARROW = 13;
/** A fence or a frame farther than so many spans of the readings from them is told, not drawn. */
const FAR = 4;
/** Operators in the strip; the ledger has all. */
export const OPERATORS_DRAWN = 6;

/** Parts of operators of their own stand in as many columns as one of them has readers. */
const readers = (numbers: Numbers): number =>
  Math.max(1, ...numbers.parts.map(({ readings }) => readings.filter((cell) => cell.length > 0).length));

export function placeStaircase(numbers: Numbers, width: number, height: number, deviation: boolean): Staircase {
  const rows = Math.min(numbers.operators.length, OPERATORS_DRAWN);
  const strip = Math.max(STRIP.least, STRIP.head + STRIP.row * rows + 12);
  const bottom = Math.max(MARGIN.top + 80, height - strip - FOOT);
  // Readings about the means are drawn too large for rulers beside them.
  const right = deviation ? width - MARGIN.right : Math.max(MARGIN.left + 80, width * (1 - RULERS) - 24);
  const stairs = { left: MARGIN.left, right, top: MARGIN.top, bottom };
  const rulers = { left: right + 40, right: width - MARGIN.right, top: MARGIN.top, bottom };
  const shown = (value: number, part: number) => (deviation ? value - (numbers.parts[part]?.mean ?? 0) : value);

  const values = numbers.parts.flatMap((part, place) => part.readings.flat().map((value) => shown(value, place)));
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const span = high - low || Math.abs(high) || 1;
  const limits = [
    { side: "lsl" as const, value: numbers.lsl },
    { side: "usl" as const, value: numbers.usl },
  ].flatMap(({ side, value }) => (value == null || deviation ? [] : [{ side, value }]));
  const near = (value: number) => value >= low - FAR * span && value <= high + FAR * span;
  const fences = limits.filter(({ value }) => near(value));
  const both = numbers.lsl != null && numbers.usl != null && !deviation;
  const middle = both ? ((numbers.lsl ?? 0) + (numbers.usl ?? 0)) / 2 : (low + high) / 2;
  const widest = Math.max(0, ...numbers.spreads.map(({ wide }) => wide), numbers.basis_wide ?? 0);
  const reach = deviation ? [] : [middle - widest / 2, middle + widest / 2];
  const ends = [low, high, ...fences.map(({ value }) => value), ...reach].filter(near);
  const [first, last] = [Math.min(...ends), Math.max(...ends)];
  const pad = (last - first || 1) * 0.06;
  const y = scaleLinear([first - pad, last + pad], [bottom, MARGIN.top]);

  const step = (right - MARGIN.left) / Math.max(1, numbers.parts.length);
  const columns = readers(numbers);
  const nested = columns === 1;
  const marks = numbers.parts.flatMap((part, place) =>
    part.readings.flatMap((cell, operator) =>
      cell.map((value) => ({
        x:
          MARGIN.left +
          step * (place + ((nested ? 0 : operator) + 0.7) / ((nested ? 1 : numbers.operators.length) + 0.4)),
        value: shown(value, place),
        part: place,
        operator,
      })),
    ),
  );
  const crowded = step < NARROW || numbers.n > 4000;
  return {
    y,
    stairs,
    step,
    marks,
    crowded,
    fences,
    rulers,
    middle,
    strip: { left: MARGIN.left, right: width - MARGIN.right, top: bottom + FOOT, bottom: height - 8 },
  };
}

/** Panels that notes are pinned to. */
const PANELS = { stairs: 0, rulers: 1, bias: 2, consistency: 3 };
/** Where the rows of operators begin below the head of their strip, and how far apart they are. */
export const ROWS = { first: 44, apart: 21 };

/** Where the letter of a note stands; nowhere for a note about the whole. */
export function pinPlace(
  layout: Staircase,
  { pin }: Schema["Note"],
  deviation: boolean,
): { x: number; y: number } | null {
  if (!pin) return null;
  const { stairs, rulers, strip, marks, y, crowded } = layout;
  if (pin.panel === PANELS.stairs) {
    const mark = pin.first == null || crowded ? undefined : marks[pin.first];
    return mark ? { x: mark.x + 15, y: y(mark.value) - 12 } : { x: stairs.right - 12, y: 24 };
  }
  if (pin.panel === PANELS.rulers) return deviation ? null : { x: rulers.right - 8, y: 42 };
  if (pin.first == null || pin.first >= OPERATORS_DRAWN) return null;
  const left = pin.panel === PANELS.bias ? strip.left : strip.left + (strip.right - strip.left) / 2;
  return { x: left - 15, y: strip.top + ROWS.first + ROWS.apart * pin.first };
}

/** The stair through the means of the parts. */
export function stairPath(numbers: Numbers, { y, stairs, step }: Staircase, deviation: boolean): string {
  return numbers.parts
    .map(({ mean }, place) => {
      const at = y(deviation ? 0 : mean);
      return `${place === 0 ? "M" : "L"}${stairs.left + step * (place + 0.08)} ${at}H${stairs.left + step * (place + 0.92)}`;
    })
    .join("");
}
