import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import type { Box, Scale } from "../../marks/panel-layout";

export type Numbers = Schema["GaugeLinearityNumbers"];
export type Layout = { box: Box; x: Scale; y: Scale };

const MARGIN = { left: 66, right: 30, top: 54, bottom: 76 };

export function placeBias(numbers: Numbers, width: number, height: number): Layout {
  const box = { left: MARGIN.left, right: width - MARGIN.right, top: MARGIN.top, bottom: height - MARGIN.bottom };
  const references = numbers.parts.map(({ reference }) => reference);
  const [first, last] = [Math.min(...references), Math.max(...references)];
  const wide = last - first || Math.abs(last) || 1;
  const biases = numbers.parts.flatMap(({ biases, bias, bias_ci95 }) => [...biases, bias, ...(bias_ci95 ?? [])]);
  const band = numbers.band.flatMap(({ fit, low, high }) => [fit, low ?? fit, high ?? fit]);
  const ends = [0, ...biases, ...band];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const pad = (high - low || 1) * 0.08;
  return {
    box,
    x: scaleLinear([first - 0.07 * wide, last + 0.07 * wide], [box.left, box.right]),
    y: scaleLinear([low - pad, high + pad], [box.bottom, box.top]),
  };
}
