import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { counted, writerOf } from "../../lib/format";
import { Axis } from "../../marks/panel-marks";
import { SeriesMark } from "../../marks/series-mark";
import { Heading, Sheet } from "../../marks/sheet";
import type { DrawingProps } from "../../study/figure";
import { ends, readingsOf } from "./cells";
import { Legend } from "./legend";

/** Readings less the mean of their part as they were measured: a drift, a warm-up or a tired reader shows. */
export function InOrder({ numbers, name, size, figure }: DrawingProps<"gauge-crossed">) {
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const all = useMemo(() => readingsOf(numbers), [numbers]);
  const box = { left: 58, right: size.width - 24, top: 62, bottom: size.height - 40 };
  const marks = numbers.in_order.flatMap((place) => {
    const reading = all[place];
    return reading ? [{ ...reading, off: reading.value - (numbers.parts[reading.part]?.mean ?? 0) }] : [];
  });
  const y = scaleLinear(
    ends(
      marks.map(({ off }) => off),
      0.08,
    ),
    [box.bottom, box.top],
  );
  const x = scaleLinear([-0.5, marks.length - 0.5], [box.left, box.right]);
  const every = Math.max(1, Math.ceil(marks.length / 12));
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`${counted(marks.length, "reading", "readings")} of ${name} in the order measured, less the mean of their part.`}
    >
      <Heading x={box.left} y={28}>
        Readings less the mean of their part, in the order measured{writer.unit && ` (${writer.unit})`}
      </Heading>
      <Legend labels={numbers.operators.map(({ label }) => label)} x={box.left + 8} y={48} right={box.right} />
      <Axis layout={{ box, y }} writer={writer} />
      <path d={`M${box.left} ${y(0)}H${box.right}`} stroke="var(--moss)" strokeWidth="1.6" />
      <path
        d={marks.map(({ off }, place) => `${place === 0 ? "M" : "L"}${x(place)} ${y(off)}`).join("")}
        fill="none"
        stroke="var(--slate)"
        strokeOpacity="0.35"
      />
      {marks.map(({ off, operator }, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: readings are told apart by their place
        <SeriesMark key={place} x={x(place)} y={y(off)} series={operator} />
      ))}
      {marks.map((_, place) =>
        place % every === 0 ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: readings are told apart by their place
          <text key={place} x={x(place)} y={box.bottom + 20} textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
            {place + 1}
          </text>
        ) : null,
      )}
    </Sheet>
  );
}
