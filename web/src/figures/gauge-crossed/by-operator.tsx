import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { writerOf } from "../../lib/format";
import { spreadLabels } from "../../marks/panel-layout";
import { Axis } from "../../marks/panel-marks";
import { SeriesMark } from "../../marks/series-mark";
import { Heading, Sheet } from "../../marks/sheet";
import type { DrawingProps } from "../../study/figure";
import { cellMean, ends } from "./cells";

/** Parts whose names have room at the right. */
const NAMED = 40;

/** The mean of each part by each operator, one line a part: level when operators agree, parallel when they differ alike. */
export function ByOperator({ numbers, name, size, figure }: DrawingProps<"gauge-crossed">) {
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const box = { left: 58, right: size.width - 90, top: 54, bottom: size.height - 46 };
  const lines = numbers.parts.map(({ label }, part) => ({
    label,
    means: numbers.operators.map((_, operator) => cellMean(numbers, part, operator)),
  }));
  const values = lines.flatMap(({ means }) => means.filter((mean) => mean !== undefined));
  const y = scaleLinear(ends(values, 0.06), [box.bottom, box.top]);
  const wide = (box.right - box.left) / numbers.operators.length;
  const x = (operator: number) => box.left + wide * (operator + 0.5);
  const last = lines.map(({ means }) => y(means.findLast((mean) => mean !== undefined) ?? values[0] ?? 0));
  const places = spreadLabels(last, 14, box);
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Mean of each part of ${name} by operator. Lines that cross are parts that operators read differently.`}
    >
      <Heading x={box.left} y={28}>
        Mean of each part by operator{writer.unit && ` (${writer.unit})`}
      </Heading>
      <Axis layout={{ box, y }} writer={writer} />
      {lines.map(({ label, means }, part) => {
        const known = means.flatMap((mean, operator) => (mean === undefined ? [] : [{ mean, operator }]));
        return (
          <g key={label}>
            <path
              d={known
                .map(({ mean, operator }, place) => `${place === 0 ? "M" : "L"}${x(operator)} ${y(mean)}`)
                .join("")}
              fill="none"
              stroke="var(--ink-soft)"
              strokeOpacity={lines.length > NAMED ? 0.35 : 0.7}
              strokeWidth="1.3"
            />
            {lines.length <= NAMED &&
              known.map(({ mean, operator }) => (
                <SeriesMark key={operator} x={x(operator)} y={y(mean)} series={operator} />
              ))}
            {lines.length <= NAMED && (
              <text
                x={x(numbers.operators.length - 1) + 14}
                y={(places[part] ?? 0) + 4}
                fontSize="12"
                fill="var(--ink-soft)"
              >
                {label.length > 12 ? `${label.slice(0, 11)}…` : label}
              </text>
            )}
          </g>
        );
      })}
      {numbers.operators.map(({ label }, operator) => (
        <text key={label} x={x(operator)} y={box.bottom + 24} textAnchor="middle" fontSize="12.5" fill="var(--ink)">
          {label.length * 7 > wide ? `${label.slice(0, Math.max(1, Math.floor(wide / 7) - 1))}…` : label}
        </text>
      ))}
    </Sheet>
  );
}
