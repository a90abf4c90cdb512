import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Schema } from "../../api/client";
import { BAND } from "../../marks/band";
import { type Numbers, nearest, type OneScale } from "./layout";

type Point = Schema["PlotPoint"];
const SHARES: [string, number][] = [
  ["1 %", -2.3263],
  ["50 %", 0],
  ["99 %", 2.3263],
];

/** Values against the scores of the shape: on the line when it fits, within the band by chance. */
export function AgainstShape({ layout, numbers, lit }: { layout: OneScale; numbers: Numbers; lit: number | null }) {
  const { plot, y } = layout;
  const most = Math.max(2.5, ...numbers.plot.map((point) => Math.abs(point.score))) * 1.05;
  const x = scaleLinear([-most, most], [plot.left, plot.right]);
  const [low = 0, high = 0] = y.domain();
  const inside = (value: number) => y(Math.max(low, Math.min(high, value)));
  const banded = numbers.plot.filter((point) => point.low != null || point.high != null);
  const band = area<Point>()
    .x((point) => x(point.score))
    .y0((point) => inside(point.low ?? low))
    .y1((point) => inside(point.high ?? high));
  const straight = line<Point>()
    .defined((point) => point.line != null && point.line >= low && point.line <= high)
    .x((point) => x(point.score))
    .y((point) => y(point.line ?? 0));
  const chosen = lit === null ? undefined : nearest(numbers.plot, (point) => point.value, lit);
  return (
    <g>
      <path d={`M${plot.left} ${plot.bottom}H${plot.right}`} stroke="var(--hairline)" />
      <path d={band(banded) ?? ""} fill="var(--moss)" fillOpacity="0.13" />
      {banded.length > 0 && (
        <text x={plot.right} y={plot.bottom - 6} fontSize="11" textAnchor="end" fill="var(--ink-soft)">
          {BAND}
        </text>
      )}
      <path
        d={straight(numbers.plot) ?? ""}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
        strokeDasharray="1.5 4"
        strokeLinecap="round"
      />
      {numbers.plot.map((point) => (
        <circle key={point.score} cx={x(point.score)} cy={y(point.value)} r="2.3" fill="var(--slate)" />
      ))}
      {chosen && (
        <circle cx={x(chosen.score)} cy={y(chosen.value)} r="5.5" fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      )}
      {SHARES.map(([share, score]) => (
        <text key={share} x={x(score)} y={plot.bottom + 17} fontSize="12" fill="var(--ink-soft)" textAnchor="middle">
          {share}
        </text>
      ))}
    </g>
  );
}
