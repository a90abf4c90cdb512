import { scaleBand, scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import { fixed } from "../../lib/format";
import type { Box } from "../../marks/panel-layout";

/** What is left after each step: the bar of units still without a defect, the part lost there in clay. */
export function Steps({ steps, box }: { steps: Schema["YieldStep"][]; box: Box }) {
  const x = scaleBand(
    steps.map((_, index) => index),
    [box.left, box.right],
  ).padding(0.28);
  const least = Math.min(...steps.map((step) => step.rolled_yield));
  // From 0 unless all is near the top.
  const floor = least > 0.6 ? Math.floor((2 * least - 1) * 10) / 10 : 0;
  const y = scaleLinear([floor, 1], [box.bottom - 34, box.top]);
  const wide = x.bandwidth();
  return (
    <g>
      {y.ticks(5).map((tick) => (
        <g key={tick}>
          <path d={`M${box.left} ${y(tick)}H${box.right}`} stroke="var(--hairline)" strokeOpacity="0.7" />
          <text x={box.left - 9} y={y(tick) + 4} fontSize="12" textAnchor="end" fill="var(--ink-soft)">
            {fixed(100 * tick, 0)} %
          </text>
        </g>
      ))}
      {steps.map((step, index) => {
        const left = x(index) ?? 0;
        const before = steps[index - 1]?.rolled_yield ?? 1;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps may share a name, and their order is theirs
          <g key={index}>
            <rect
              x={left}
              y={y(step.rolled_yield)}
              width={wide}
              height={box.bottom - 34 - y(step.rolled_yield)}
              fill="var(--slate)"
              fillOpacity="0.75"
            />
            <rect
              x={left}
              y={y(before)}
              width={wide}
              height={Math.max(1, y(step.rolled_yield) - y(before))}
              fill="var(--clay)"
              fillOpacity="0.85"
            />
            <text x={left + wide / 2} y={y(before) - 6} fontSize="12" textAnchor="middle" fill="var(--ink)">
              {fixed(100 * step.first_time_yield, 1)} %
            </text>
            <text x={left + wide / 2} y={box.bottom - 14} fontSize="12" textAnchor="middle" fill="var(--ink)">
              {step.name.length > wide / 6 ? `${step.name.slice(0, Math.max(3, wide / 6 - 1))}…` : step.name}
            </text>
            <text
              x={left + wide / 2}
              y={box.bottom + 3}
              fontSize="12"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--ink-soft)"
            >
              {fixed(100 * step.rolled_yield, 1)} % left
            </text>
          </g>
        );
      })}
    </g>
  );
}
