import { line } from "d3-shape";
import { memo } from "react";
import type { Writer } from "../../lib/format";
import { type PanelLayout, type PointNumbers, spreadLabels } from "./layout";

/** Up to this many points each gets a dot; beyond, the line alone tells the story until one zooms in. */
const DOTS_UP_TO = 260;

type Props = { layout: PanelLayout; title: string; writer: Writer };

/** The marks of one panel that do not answer to the pointer. */
export const Panel = memo(function Panel({ layout, title, writer }: Props) {
  const { box } = layout;
  return (
    <g>
      <text x={box.left} y={box.top - 14} fontSize="13" fontWeight="600" fill="var(--ink)">
        {title}
      </text>
      <Wash layout={layout} />
      <Axis layout={layout} writer={writer} />
      {layout.fences.map((fence) => (
        <Fence key={fence.side} layout={layout} {...fence} />
      ))}
      <PhaseLines layout={layout} />
      <ValueLine layout={layout} />
      <Dots layout={layout} />
      <Rings layout={layout} />
      <EndLabels layout={layout} writer={writer} />
    </g>
  );
});

const stretch = (layout: PanelLayout, phase: { first: number; last: number }) => ({
  from: Math.max(layout.box.left, layout.x(phase.first - 0.5)),
  to: Math.min(layout.box.right, layout.x(phase.last + 0.5)),
});

const visiblePhases = (layout: PanelLayout) => {
  const [low = 0, high = 0] = layout.x.domain();
  return layout.numbers.phases.filter((phase) => phase.last >= low && phase.first <= high);
};

/** A lower limit of zero on a spread panel is a floor, which no value could pass. */
const isFloor = (layout: PanelLayout, lcl: number | null | undefined) => layout.index > 0 && lcl === 0;

/** The region beyond the control limits. */
function Wash({ layout }: { layout: PanelLayout }) {
  const { box, y } = layout;
  const inside = (value: number) => Math.max(box.top, Math.min(box.bottom, y(value)));
  return visiblePhases(layout).map((phase) => {
    const { from, to } = stretch(layout, phase);
    return (
      <g key={phase.first} fill="var(--wash)">
        {phase.ucl != null && <rect x={from} width={to - from} y={box.top} height={inside(phase.ucl) - box.top} />}
        {phase.lcl != null && (
          <rect x={from} width={to - from} y={inside(phase.lcl)} height={box.bottom - inside(phase.lcl)} />
        )}
      </g>
    );
  });
}

function Axis({ layout, writer }: { layout: PanelLayout; writer: Writer }) {
  const { box, y } = layout;
  const ticks = y.ticks(Math.max(2, Math.floor((box.bottom - box.top) / 46)));
  const step = Math.abs((ticks[1] ?? 1) - (ticks[0] ?? 0));
  const decimals = Math.max(0, Math.min(writer.decimals + 1, Math.ceil(-Math.log10(step || 1) - 1e-9)));
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="end">
      <path d={`M${box.left} ${box.top}V${box.bottom}`} stroke="var(--hairline)" strokeWidth="1.5" />
      {ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${box.left - 5} ${y(tick)}h5`} stroke="var(--hairline)" />
          <text x={box.left - 9} y={y(tick) + 4}>
            {tick.toFixed(decimals).replace("-", "−")}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Centre and control limits of each phase; between phases a hairline and the name. */
function PhaseLines({ layout }: { layout: PanelLayout }) {
  const { box, y } = layout;
  const phases = visiblePhases(layout);
  return phases.map((phase, index) => {
    const { from, to } = stretch(layout, phase);
    const rule = (value: number | null | undefined, key: string, dashed: boolean) =>
      value != null && (
        <path
          key={key}
          d={`M${from} ${y(value)}H${to}`}
          stroke={dashed ? "var(--ochre)" : "var(--moss)"}
          strokeWidth={dashed ? 1.5 : 1.7}
          strokeDasharray={dashed ? "12 5" : undefined}
        />
      );
    return (
      <g key={phase.first}>
        {rule(phase.center, "centre", false)}
        {rule(phase.ucl, "ucl", true)}
        {!isFloor(layout, phase.lcl) && rule(phase.lcl, "lcl", true)}
        {index > 0 && <path d={`M${from} ${box.top - 4}V${box.bottom}`} stroke="var(--ink-soft)" strokeWidth="0.8" />}
        {phase.label && layout.index === 0 && (
          <text x={from + 5} y={box.top + 12} fontSize="12" fill="var(--ink-soft)">
            {phase.label}
          </text>
        )}
      </g>
    );
  });
}

/** The fence of a specification limit: hatched on the forbidden side. */
function Fence({ layout, side, value }: { layout: PanelLayout; side: "lsl" | "usl"; value: number }) {
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

const has = (point: PointNumbers): point is PointNumbers & { value: number } => point.value != null;

function ValueLine({ layout }: { layout: PanelLayout }) {
  const { x, y, numbers } = layout;
  const draw = line<PointNumbers>()
    .defined(has)
    .x((point) => x(point.i))
    .y((point) => y(point.value ?? 0));
  return (
    <path d={draw(numbers.points) ?? ""} fill="none" stroke="var(--slate)" strokeOpacity="0.75" strokeWidth="1.1" />
  );
}

function Dots({ layout }: { layout: PanelLayout }) {
  const { x, y, numbers, fences } = layout;
  if (numbers.points.length > DOTS_UP_TO) return null;
  const radius = numbers.points.length > 110 ? 2.6 : 3.4;
  const usl = fences.find((fence) => fence.side === "usl")?.value ?? Number.POSITIVE_INFINITY;
  const lsl = fences.find((fence) => fence.side === "lsl")?.value ?? Number.NEGATIVE_INFINITY;
  return numbers.points.filter(has).map((point) => {
    const [cx, cy] = [x(point.i), y(point.value)];
    // Beyond specification: a notch that points back at the fence.
    const notch = point.value > usl ? 7 : point.value < lsl ? -7 : 0;
    return (
      <g key={point.i}>
        {notch !== 0 && <path d={`M${cx - 4} ${cy + notch}h8l-4 ${notch > 0 ? 6 : -6}z`} fill="var(--clay)" />}
        <circle
          cx={cx}
          cy={cy}
          r={radius}
          fill={point.omitted ? "var(--sheet)" : "var(--slate)"}
          stroke="var(--slate)"
          strokeWidth={point.omitted ? 1.4 : 0}
        />
      </g>
    );
  });
}

/** A ring around every point beyond a control limit. */
function Rings({ layout }: { layout: PanelLayout }) {
  const { x, y, numbers } = layout;
  const beyond = numbers.signals.filter((signal) => signal.pattern === "beyond-limits");
  const ringed = numbers.points.filter((point) => beyond.some((s) => point.i >= s.first && point.i <= s.last));
  const radius = numbers.points.length > DOTS_UP_TO ? 5 : 8;
  return ringed
    .filter(has)
    .map((point) => (
      <circle
        key={point.i}
        cx={x(point.i)}
        cy={y(point.value)}
        r={radius}
        fill="none"
        stroke="var(--plum)"
        strokeWidth="2"
      />
    ));
}

function EndLabels({ layout, writer }: { layout: PanelLayout; writer: Writer }) {
  const { box, y } = layout;
  const phase = visiblePhases(layout).at(-1);
  const labels = [
    { words: "upper limit", value: phase?.ucl, colour: "var(--ochre)" },
    { words: "centre", value: phase?.center, colour: "var(--moss)" },
    { words: "lower limit", value: phase?.lcl, colour: "var(--ochre)" },
  ].flatMap(({ words, value, colour }) =>
    value != null && !(words === "lower limit" && isFloor(layout, value)) ? [{ words, value, colour }] : [],
  );
  const places = spreadLabels(
    labels.map((label) => y(label.value)),
    31,
    box,
  );
  return labels.map(({ words, value, colour }, index) => (
    <text key={words} x={box.right + 9} y={(places[index] ?? 0) - 2} fontSize="12" fill={colour}>
      {words}
      <tspan x={box.right + 9} dy="14" fontWeight="600">
        {writer.bareComputed(value)}
      </tspan>
    </text>
  ));
}
