import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import type { RefObject } from "react";
import { writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size } from "../../study/figure";
import type { Numbers } from "./layout";

type Props = { numbers: Numbers; size: Size; figure: RefObject<SVGSVGElement | null> };

/** What the fit leaves, in the order of the rows and against the fit: a pattern here is something that the fit misses. */
export function Residuals({ numbers, size, figure }: Props) {
  const residuals = numbers.points.map(({ residual }) => residual ?? 0);
  const fitted = numbers.points.map(({ y, residual }) => y - (residual ?? 0));
  const reach = Math.max(...residuals.map(Math.abs), 1e-300);
  const panels = [
    {
      title: "What the fit leaves, in the order of the rows",
      at: residuals.map((_, place) => place + 1),
      foot: "pair",
    },
    { title: "What the fit leaves, against the fit", at: fitted, foot: `fitted ${numbers.names[1]}` },
  ];
  const high = (size.height - 30) / 2;
  const written = numbers.writers[1];
  const write = written ? writerOf(written).signed : String;
  return (
    <Sheet figure={figure} size={size} label="What the fit leaves, in the order of the rows and against the fit.">
      {panels.map(({ title, at, foot }, panel) => {
        const top = 20 + high * panel;
        const y = scaleLinear([-reach * 1.08, reach * 1.08], [top + high - 52, top + 26]);
        const [low = 0, most = 1] = extent(at);
        const x = scaleLinear([low, most === low ? low + 1 : most], [84, size.width - 40]);
        return (
          <g key={title} fontSize="12" fill="var(--ink-soft)">
            <Heading x={16} y={top + 10}>
              {title}
            </Heading>
            <path d={`M84 ${y(0)}H${size.width - 40}`} stroke="var(--moss)" strokeWidth="1.8" />
            {[-reach, 0, reach].map((tick) => (
              <text key={tick} x="76" y={y(tick) + 4} textAnchor="end">
                {tick === 0 ? "0" : write(tick)}
              </text>
            ))}
            {numbers.points.map(({ row }, index) => (
              <circle
                key={row}
                cx={x(at[index] ?? 0)}
                cy={y(residuals[index] ?? 0)}
                r="3"
                fill="var(--slate)"
                fillOpacity="0.6"
              />
            ))}
            <text x={(84 + size.width - 40) / 2} y={top + high - 30} textAnchor="middle">
              {foot}
            </text>
          </g>
        );
      })}
    </Sheet>
  );
}
