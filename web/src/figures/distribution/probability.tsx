import { scaleLinear } from "d3-scale";
import { area } from "d3-shape";
import type { Schema } from "../../api/client";
import { BAND } from "../../marks/band";
import { GroupName } from "./marks";
import type { PictureProps } from "./picture-props";

type Point = Schema["PlotPoint"];

/** Shares that are named beside the plot, with their normal scores. */
const SHARES: [string, number][] = [
  ["0.1 %", -3.0902],
  ["1 %", -2.3263],
  ["10 %", -1.2816],
  ["50 %", 0],
  ["90 %", 1.2816],
  ["99 %", 2.3263],
  ["99.9 %", 3.0902],
];

/** Normal probability plots: points of a normal follow the line within the band. */
export function Probability({ cells }: PictureProps) {
  const scores = cells.flatMap((cell) => cell.group.plot.map((point) => Math.abs(point.score)));
  const most = Math.max(2.5, ...scores) * 1.06;
  return cells.map((cell) => {
    const { group, box, x } = cell;
    const y = scaleLinear([-most, most], [box.bottom - 2, box.top + 2]);
    const clamp = (value: number) => Math.max(box.left, Math.min(box.right, x(value)));
    const band = area<Point>()
      .x0((point) => clamp(point.low ?? point.value))
      .x1((point) => clamp(point.high ?? point.value))
      .y((point) => y(point.score));
    const [first, last] = [group.plot[0], group.plot.at(-1)];
    return (
      <g key={cell.index}>
        <path d={band(group.plot) ?? ""} fill="var(--moss)" fillOpacity="0.13" />
        {box.bottom - box.top > 110 &&
          SHARES.filter(([, score]) => Math.abs(score) < most).map(([share, score]) => (
            <g key={share}>
              <path d={`M${box.left} ${y(score)}H${box.right}`} stroke="var(--hairline)" strokeOpacity="0.6" />
              <text x={box.left - 6} y={y(score) + 4} fontSize="11" textAnchor="end" fill="var(--ink-soft)">
                {share}
              </text>
            </g>
          ))}
        {first?.line != null && last?.line != null && (
          <path
            d={`M${clamp(first.line)} ${y(first.score)}L${clamp(last.line)} ${y(last.score)}`}
            stroke="var(--ink)"
            strokeWidth="1.5"
            strokeDasharray="1.5 4"
            strokeLinecap="round"
          />
        )}
        {group.plot.length > 0 && box.bottom - box.top > 110 && (
          <text x={box.right - 4} y={box.bottom - 6} fontSize="11" textAnchor="end" fill="var(--ink-soft)">
            {BAND}
          </text>
        )}
        {group.plot.map((point) => (
          <circle key={point.score} cx={x(point.value)} cy={y(point.score)} r="2.6" fill="var(--slate)" />
        ))}
        <GroupName cell={cell} beside={false} />
      </g>
    );
  });
}
