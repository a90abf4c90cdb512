import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { DrawingProps, Size } from "../../study/figure";
import { cellMean, ends } from "./cells";

/** Pairs that have room. */
const PAIRS_MOST = 6;

/** As many side by side as make each the largest. */
function roomOf(pairs: number, size: Size) {
  const of = (columns: number) => {
    const room = { width: (size.width - 40) / columns, height: (size.height - 60) / Math.ceil(pairs / columns) };
    return { columns, room, side: Math.max(80, Math.min(room.width - 70, room.height - 62)) };
  };
  return [1, 2, 3].map(of).reduce((best, other) => (other.side > best.side ? other : best));
}

/** Two operators' means of each part against each other; on the diagonal both read the same. */
export function Pairs({ numbers, name, size, figure }: DrawingProps<"gauge-crossed">) {
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const people = numbers.operators.map(({ label }) => label);
  const all = people.flatMap((_, a) => people.slice(a + 1).map((_, off) => ({ a, b: a + 1 + off })));
  const pairs = all.slice(0, PAIRS_MOST);
  const { columns, room, side } = roomOf(pairs.length, size);
  const means = people.flatMap((_, operator) =>
    numbers.parts.flatMap((_, part) => cellMean(numbers, part, operator) ?? []),
  );
  const span = ends(means, 0.06);
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Mean of each part of ${name}, two operators at a time. On the diagonal both read the same.`}
    >
      <Heading x={30} y={28}>
        Mean of each part, two operators at a time{writer.unit && ` (${writer.unit})`}
      </Heading>
      {all.length > pairs.length && (
        <text x={size.width - 24} y={28} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
          the first {pairs.length} of {all.length} pairs
        </text>
      )}
      {pairs.map(({ a, b }, place) => {
        const left = 20 + room.width * (place % columns) + (room.width - side) / 2 + 10;
        const top = 46 + room.height * Math.floor(place / columns);
        const x = scaleLinear(span, [left, left + side]);
        const y = scaleLinear(span, [top + side, top]);
        return (
          <g key={`${a} ${b}`}>
            <path d={`M${left} ${top}v${side}h${side}`} fill="none" stroke="var(--hairline)" strokeWidth="1.5" />
            <path d={`M${left} ${top + side}L${left + side} ${top}`} stroke="var(--moss)" strokeWidth="1.4" />
            {numbers.parts.map(({ label }, part) => {
              const [of, against] = [cellMean(numbers, part, a), cellMean(numbers, part, b)];
              return of === undefined || against === undefined ? null : (
                <circle key={label} cx={x(of)} cy={y(against)} r="3.6" fill="var(--slate)" fillOpacity="0.85" />
              );
            })}
            <text x={left + side / 2} y={top + side + 20} textAnchor="middle" fontSize="12.5" fill="var(--ink)">
              {people[a]}
            </text>
            <text
              transform={`translate(${left - 10},${top + side / 2}) rotate(-90)`}
              textAnchor="middle"
              fontSize="12.5"
              fill="var(--ink)"
            >
              {people[b]}
            </text>
            <text x={left} y={top + side + 20} fontSize="11.5" fill="var(--ink-soft)">
              {writer.bare(span[0])}
            </text>
            <text x={left + side} y={top + side + 20} textAnchor="end" fontSize="11.5" fill="var(--ink-soft)">
              {writer.bare(span[1])}
            </text>
          </g>
        );
      })}
    </Sheet>
  );
}
