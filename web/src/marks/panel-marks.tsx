import { line } from "d3-shape";
import type { ValueFormat } from "../lib/format";
import type { Fence, PanelLayout, PointNumbers } from "./panel-layout";

/** Up to this many points each gets a dot; beyond, the line alone tells the story until one zooms in. */
const DOTS_UP_TO = 260;

export function Axis({ layout, writer }: { layout: Pick<PanelLayout, "box" | "y">; writer: ValueFormat }) {
  const { box, y } = layout;
  const shown = y.copy().domain(y.domain().map((value) => value * writer.factor));
  const ticks = shown.ticks(Math.max(2, Math.floor((box.bottom - box.top) / 46)));
  const step = Math.abs((ticks[1] ?? 1) - (ticks[0] ?? 0));
  const decimals = Math.max(0, Math.min(writer.computedDecimals, Math.ceil(-Math.log10(step || 1) - 1e-9)));
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="end">
      <path d={`M${box.left} ${box.top}V${box.bottom}`} stroke="var(--hairline)" strokeWidth="1.5" />
      {ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${box.left - 5} ${shown(tick)}h5`} stroke="var(--hairline)" />
          <text x={box.left - 9} y={shown(tick) + 4}>
            {tick.toFixed(decimals).replace("-", "−")}
          </text>
        </g>
      ))}
    </g>
  );
}

type FenceProps = Fence & { layout: Pick<PanelLayout, "box" | "y"> };

/** The fence of a specification limit: hatched on the forbidden side. */
export function FenceLine({ layout, side, value }: FenceProps) {
  const { box, y } = layout;
  const at = y(value);
  const out = side === "usl" ? -6 : 6;
  const strokes = [];
  for (let x = box.left + 4; x < box.right; x += 9) strokes.push(`M${x} ${at}l5 ${out}`);
  return (
    <g stroke="var(--ink)">
      <path d={`M${box.left} ${at}H${box.right}`} strokeWidth="2" />
      <path d={strokes.join("")} strokeWidth="0.8" strokeOpacity="0.6" />
      <text
        x={box.left + 6}
        y={at + (side === "usl" ? 14 : -6)}
        stroke="none"
        fill="var(--ink)"
        fontSize="12"
        fontWeight="600"
      >
        {side.toUpperCase()} {String(value)}
      </text>
    </g>
  );
}

type SeriesProps = {
  layout: Pick<PanelLayout, "x" | "y" | "numbers" | "fences">;
  of: (point: PointNumbers) => number | null;
};

export function ValueLine({ layout, of }: SeriesProps) {
  const { x, y, numbers } = layout;
  const draw = line<PointNumbers>()
    .defined((point) => of(point) !== null)
    .x((point) => x(point.i))
    .y((point) => y(of(point) ?? 0));
  return (
    <path d={draw(numbers.points) ?? ""} fill="none" stroke="var(--slate)" strokeOpacity="0.75" strokeWidth="1.1" />
  );
}

export function Dots({ layout, of }: SeriesProps) {
  const { x, y, numbers, fences } = layout;
  if (numbers.points.length > DOTS_UP_TO) return null;
  const radius = numbers.points.length > 110 ? 2.6 : 3.4;
  const usl = fences.find((fence) => fence.side === "usl")?.value ?? Number.POSITIVE_INFINITY;
  const lsl = fences.find((fence) => fence.side === "lsl")?.value ?? Number.NEGATIVE_INFINITY;
  return numbers.points.map((point) => {
    const value = of(point);
    if (value === null) return null;
    const [cx, cy] = [x(point.i), y(value)];
    // Beyond specification: a notch that points back at the fence.
    const notch = value > usl ? 7 : value < lsl ? -7 : 0;
    return (
      <g key={point.i}>
        {notch !== 0 && <path d={`M${cx - 4} ${cy + notch}h8l-4 ${notch > 0 ? 6 : -6}z`} fill="var(--clay)" />}
        <circle
          cx={cx}
          cy={cy}
          r={radius}
          data-omitted={point.omitted || undefined}
          fill={point.omitted ? "var(--sheet)" : "var(--slate)"}
          stroke="var(--slate)"
          strokeWidth={point.omitted ? 1.4 : 0}
        />
      </g>
    );
  });
}

export const ringRadius = (points: number) => (points > DOTS_UP_TO ? 5 : 8);
