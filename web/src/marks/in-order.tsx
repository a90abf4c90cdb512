import { memo } from "react";
import type { ValueFormat } from "../lib/format";
import { LimitLines, Wash } from "./limit-lines";
import type { PanelLayout } from "./panel-layout";
import { Axis, Dots, ringRadius, ValueLine } from "./panel-marks";

/** The location panel of the chart: single values behind means, limits, rings around points beyond them. */
export const InOrder = memo(function InOrder({ layout }: { layout: PanelLayout }) {
  const { numbers, box } = layout;
  const [first, last] = [numbers.points[0], numbers.points.at(-1)];
  return (
    <g>
      <LimitLines layout={layout} />
      <path d={pieces(layout)} fill="var(--slate-mid)" fillOpacity="0.7" />
      <ValueLine layout={layout} of={(point) => point.value ?? null} />
      <Dots layout={layout} of={(point) => point.value ?? null} />
      <Signals layout={layout} />
      {first && last && (
        <g fontSize="12" fill="var(--ink-soft)">
          <text x={box.left} y={box.bottom + 17}>
            {first.label}
          </text>
          <text x={box.right} y={box.bottom + 17} textAnchor="end">
            {last.label}
          </text>
        </g>
      )}
    </g>
  );
});

/** The single pieces behind each mean, as dots of one path. */
function pieces({ numbers, x, y }: PanelLayout): string {
  const dot = (cx: number, cy: number) => `M${cx - 2.1} ${cy}a2.1 2.1 0 1 0 4.2 0a2.1 2.1 0 1 0 -4.2 0`;
  return numbers.points.flatMap((point) => (point.contents ?? []).map((value) => dot(x(point.i), y(value)))).join("");
}

/** The spread panel under it. */
export function Ranges({ layout, writer, scaled }: { layout: PanelLayout; writer: ValueFormat; scaled: boolean }) {
  const { box } = layout;
  return (
    <g data-testid="spread">
      <text x={box.left} y={box.top - 7} fontSize="12.5" fontWeight="600" fill="var(--ink)">
        {layout.numbers.title}
        {scaled && ", on the scale where the shape is normal"}
      </text>
      <Wash layout={layout} />
      <Axis layout={layout} writer={writer} />
      <LimitLines layout={layout} />
      <ValueLine layout={layout} of={(point) => point.value ?? null} />
      <Signals layout={layout} />
    </g>
  );
}

/** Rings around points beyond the limits, brackets under runs. */
function Signals({ layout }: { layout: PanelLayout }) {
  const { numbers, x, y } = layout;
  return (
    <g fill="none" stroke="var(--plum)" strokeWidth="2">
      {numbers.signals.map((signal) => {
        const inside = numbers.points.filter(
          (point) => point.i >= signal.first && point.i <= signal.last && point.value != null,
        );
        if (signal.pattern === "beyond-limits")
          return inside.map((point) => (
            <circle
              key={`ring ${point.i}`}
              cx={x(point.i)}
              cy={y(point.value ?? 0)}
              r={ringRadius(numbers.points.length) - 1}
            />
          ));
        const foot = Math.min(layout.box.bottom - 3, Math.max(...inside.map((point) => y(point.value ?? 0))) + 14);
        return (
          <path
            key={`${signal.pattern} ${signal.first}`}
            d={`M${x(signal.first - 0.35)} ${foot - 6}V${foot}H${x(signal.last + 0.35)}v-6`}
          />
        );
      })}
    </g>
  );
}
