import type { Schema } from "../../api/client";
import type { Box } from "../../marks/panel-layout";

export type Numbers = Schema["SigmaLevelNumbers"];

export const STRIP = 74;

/** The picture of what is counted at the left, the ladder at the right, the numbers under both. */
export function placePanes(width: number, height: number): { picture: Box; ladder: Box } {
  const top = 52;
  const bottom = height - STRIP - 34;
  const split = width * 0.62;
  return {
    picture: { left: 58, right: split - 30, top, bottom },
    ladder: { left: split + 46, right: width - 124, top, bottom },
  };
}

/** How many squares of a thousand are bad, and what one square stands for, so that a rare defect still shows. */
export function squares(dpo: number): { bad: number; each: number } {
  let each = 1;
  while (dpo > 0 && dpo * 1000 * each < 0.95 && each < 1e9) each *= 10;
  return { bad: Math.min(1000, Math.round(dpo * 1000 * each)), each };
}

/** Defects per million as people write them. */
export function rate(dpmo: number): string {
  if (dpmo >= 100) return Math.round(dpmo).toLocaleString("en-US");
  return dpmo >= 1 || dpmo === 0 ? dpmo.toFixed(1) : dpmo.toPrecision(2);
}
