import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { RefObject } from "react";
import type { Schema } from "../../api/client";
import { fixed, shareWords } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { Numbers } from "./layout";

type Candidate = Schema["ShapeCandidate"];
type Props = {
  numbers: Numbers;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
  onTake: (shape: string) => void;
};

const TOP = 50;
const MARGIN = 16;
const GAP = 12;

/** All fitted shapes over the same histogram, the best first; a click takes one. */
export function Shapes({ numbers, size, figure, onTake }: Props) {
  const columns = numbers.shapes.length > 9 ? 4 : 3;
  const rows = Math.ceil(numbers.shapes.length / columns);
  const wide = (size.width - 2 * MARGIN - GAP * (columns - 1)) / columns;
  const high = (size.height - TOP - MARGIN - GAP * (rows - 1)) / Math.max(rows, 2);
  const place = (index: number) => ({
    left: MARGIN + (index % columns) * (wide + GAP),
    top: TOP + Math.floor(index / columns) * (high + GAP),
  });
  return (
    <div className="relative h-full">
      <Sheet figure={figure} size={size} label={`${numbers.shapes.length} fitted shapes, the best first`}>
        <Heading x={MARGIN} y={28}>
          Fitted shapes, the best first
        </Heading>
        {numbers.shapes.map((shape, index) => {
          const { left, top } = place(index);
          return (
            <g key={shape.name} transform={`translate(${left},${top})`}>
              <Card shape={shape} numbers={numbers} wide={wide} high={high} first={index === 0} />
            </g>
          );
        })}
      </Sheet>
      {numbers.shapes.map((shape, index) => (
        <button
          key={shape.name}
          type="button"
          aria-label={`Take the ${shape.words}`}
          aria-pressed={shape.assumed}
          title={`Take the ${shape.words}`}
          onClick={() => onTake(`fit:${shape.name}`)}
          className="absolute rounded-lg border border-transparent hover:border-moss"
          style={{ ...place(index), width: wide, height: high }}
        />
      ))}
    </div>
  );
}

type CardProps = { shape: Candidate; numbers: Numbers; wide: number; high: number; first: boolean };

function Card({ shape, numbers, wide, high, first }: CardProps) {
  const { bins } = numbers;
  const tallest = Math.max(1, ...bins.map((bin) => bin.count), ...shape.curve.map((point) => point.count));
  const ends = [bins[0]?.from ?? 0, bins.at(-1)?.to ?? 1];
  const low = Math.min(...ends, ...shape.curve.map((point) => point.value));
  const x = scaleLinear([low, Math.max(...ends, ...shape.curve.map((point) => point.value))], [10, wide - 10]);
  const y = scaleLinear([0, tallest], [high - 46, 30]);
  const curve = line<Schema["CurvePoint"]>()
    .x((point) => x(point.value))
    .y((point) => y(point.count));
  const p = shape.p == null ? "" : shape.p < 0.005 ? "p below 0.005" : `p = ${fixed(shape.p, 2)}`;
  const said = shape.below_bound
    ? `reaches below ${numbers.limits.bound}`
    : shape.untested != null
      ? shape.untested
      : shape.refuted
        ? `${p}: refuted`
        : `${p}: fits`;
  const colour =
    shape.refuted || shape.below_bound ? "var(--clay)" : shape.p == null ? "var(--ink-soft)" : "var(--moss)";
  return (
    <g>
      <rect
        width={wide}
        height={high}
        rx="8"
        fill="var(--sheet)"
        stroke={shape.assumed ? "var(--moss)" : "var(--hairline)"}
        strokeWidth={shape.assumed ? 2 : 1}
      />
      <text x="10" y="19" fontSize="12.5" fontWeight="600" fill="var(--ink)">
        {shape.words.replace(" above a threshold", ", threshold")}
        {shape.assumed ? " · taken" : first ? " · best" : ""}
      </text>
      {bins.map((bin) => (
        <rect
          key={bin.from}
          x={x(bin.from) + 0.4}
          width={Math.max(0.5, x(bin.to) - x(bin.from) - 0.8)}
          y={y(bin.count)}
          height={high - 46 - y(bin.count)}
          fill="var(--slate)"
          fillOpacity="0.45"
        />
      ))}
      <path d={curve(shape.curve) ?? ""} fill="none" stroke="var(--ink)" strokeWidth="1.7" />
      <text x="10" y={high - 27} fontSize="12" fill="var(--ink-soft)">
        <tspan fontWeight="600" fill={colour}>
          {said}
        </tspan>
        {" · AIC "}
        {fixed(shape.aic, 0)}
      </text>
      <text x="10" y={high - 10} fontSize="12" fill="var(--ink-soft)">
        {shape.ppk != null && `Ppk ${fixed(shape.ppk, 2)}`}
        {shape.ppk != null && shape.out != null && " · "}
        {shape.out != null && `out ${shareWords(shape.out)}`}
      </text>
    </g>
  );
}
