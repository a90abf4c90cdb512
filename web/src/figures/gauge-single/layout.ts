import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";
import type { Stretch } from "../../study/figure";

export type Numbers = Schema["GaugeSingleNumbers"];

/** The readings in order and, on the same axis, what the gauge may take beside what it takes. */
export type Run = {
  box: Box;
  x: Scale;
  y: Scale;
  /** Half of the share of the tolerance that the gauge may take. */
  allowed: number | null;
  /** The frame of that share and the spread in it, as upright rulers. */
  ruler: { left: number; right: number };
};

const MARGIN = { left: 64, right: 28, top: 54, bottom: 40 };
const RULER = 120;

export function placeRun(numbers: Numbers, width: number, height: number, view: Stretch): Run {
  const box = {
    left: MARGIN.left,
    right: width - MARGIN.right - RULER,
    top: MARGIN.top,
    bottom: height - MARGIN.bottom,
  };
  const allowed = numbers.tolerance == null ? null : (numbers.share * numbers.tolerance) / 2;
  const half = ((numbers.sd ?? 0) * numbers.multiplier) / 2;
  const values = numbers.readings.map(({ value }) => value);
  const near = [...values, numbers.reference, numbers.mean - half, numbers.mean + half];
  const span = Math.max(...near) - Math.min(...near) || Math.abs(numbers.reference) || 1;
  // A frame that would press the readings flat is told, not drawn.
  const framed =
    allowed !== null && allowed < 4 * span ? [numbers.reference - allowed, numbers.reference + allowed] : [];
  const ends = [...near, ...framed];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const pad = (high - low || span) * 0.07;
  return {
    box,
    x: scaleLinear([view.first - 0.5, Math.max(view.last, view.first + 1) + 0.5], [box.left, box.right]),
    y: scaleLinear([low - pad, high + pad], [box.bottom, box.top]),
    allowed: framed.length > 0 ? allowed : null,
    ruler: { left: box.right + 34, right: box.right + 34 + 58 },
  };
}
