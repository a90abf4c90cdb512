import { mean } from "d3-array";
import type { Schema } from "../../api/client";

export type Numbers = Schema["GaugeCrossedNumbers"];

/** A reading: its value, its part and its operator, both by their place. */
export type Reading = { value: number; part: number; operator: number };

/** Every reading, parts lowest mean first. */
export const readingsOf = (numbers: Numbers): Reading[] =>
  numbers.parts.flatMap((part, place) =>
    part.readings.flatMap((cell, operator) => cell.map((value) => ({ value, part: place, operator }))),
  );

/** The mean of what an operator read of a part. */
export const cellMean = (numbers: Numbers, part: number, operator: number): number | undefined =>
  mean(numbers.parts[part]?.readings[operator] ?? []);

/** The smallest and largest of numbers, a little apart when they are one. */
export function ends(values: number[], pad: number): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = high - low || Math.abs(high) || 1;
  return [low - pad * room, high + pad * room];
}
