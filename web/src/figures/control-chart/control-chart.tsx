import { type KeyboardEvent, type PointerEvent, type RefObject, useMemo, useState } from "react";
import type { Schema } from "../../api/client";
import { grouped, shortTime, type Writer } from "../../lib/format";
import { layoutPanels, nearestPoint, type PanelLayout, type PointNumbers } from "./layout";
import { Panel } from "./panel";
import { Pins } from "./pins";
import { Tip } from "./tip";

type Props = {
  numbers: Schema["ControlChartNumbers"];
  notes: Schema["Note"][];
  /** What is measured, for titles. */
  name: string;
  /** What the points are ordered by, for the axis. */
  order: string;
  limits: { lsl?: number | null; usl?: number | null };
  /** The stretch that the limits rest on, when it is not all. */
  baseline: { first: number; last: number } | null;
  writer: Writer;
  size: { width: number; height: number };
  view: { first: number; last: number };
  lit: string | null;
  onLight: (letter: string | null) => void;
  figure: RefObject<SVGSVGElement | null>;
};

const TITLES: Record<string, string> = { individuals: "Each value", "moving-range": "Step from value to value" };

/** The panels of a control chart on one x axis. */
export function ControlChart(props: Props) {
  const { numbers, size, view, limits, writer, name, notes, lit, onLight } = props;
  const [at, setAt] = useState<number | null>(null);
  const panels = useMemo(
    () => layoutPanels(numbers, size.width, size.height, view.first, view.last, limits),
    [numbers, size.width, size.height, view.first, view.last, limits],
  );
  const points = numbers.panels[0]?.points ?? [];
  const point = at === null ? undefined : points.find((point) => point.i === at);

  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const scale = panels[0]?.x;
    const box = event.currentTarget.getBoundingClientRect();
    if (scale) setAt(nearestPoint(points, scale.invert(event.clientX - box.left))?.i ?? null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }[event.key];
    const place = points.findIndex((point) => point.i === at);
    if (event.key === "Escape") setAt(null);
    const wanted = event.key === "Home" ? 0 : event.key === "End" ? points.length - 1 : step && place + step;
    if (wanted === undefined) return;
    event.preventDefault();
    setAt(points[Math.max(0, Math.min(points.length - 1, wanted))]?.i ?? null);
  };

  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Points of ${name}`}
      aria-valuemin={1}
      aria-valuemax={numbers.points}
      aria-valuenow={(at ?? view.first) + 1}
      aria-valuetext={point ? spoken(point, numbers.panels, writer) : summary(numbers, name)}
      onKeyDown={onKeyDown}
      onBlur={() => setAt(null)}
      className="relative h-full rounded-xl"
    >
      <svg
        ref={props.figure}
        viewBox={`0 0 ${size.width} ${size.height}`}
        width={size.width}
        height={size.height}
        role="img"
        aria-label={summary(numbers, name)}
        onPointerMove={onPointerMove}
        onPointerLeave={() => setAt(null)}
        className="block font-sans"
      >
        {panels.map((panel) => (
          <g key={panel.index}>
            <Panel layout={panel} title={title(panel.numbers.name, name, writer)} writer={writer} />
            <Pins layout={panel} notes={notes} lit={lit} onLight={onLight} />
            {point && <Cross layout={panel} i={point.i} />}
          </g>
        ))}
        {panels[0] && props.baseline && <Baseline layout={panels[0]} baseline={props.baseline} />}
        {panels.at(-1) && <PointAxis layout={panels.at(-1) as PanelLayout} points={points} order={props.order} />}
      </svg>
      {point && panels[0] && (
        <Tip point={point} numbers={numbers} writer={writer} x={panels[0].x(point.i)} layout={panels[0]} />
      )}
    </div>
  );
}

function title(panel: string, name: string, writer: Writer): string {
  const unit = writer.unit && ` (${writer.unit})`;
  const words = TITLES[panel] ?? panel;
  return panel === "individuals" ? `${words}, ${name}${unit}` : `${words}${unit}`;
}

/** A hairline through the point under the pointer, and the point itself enlarged. */
function Cross({ layout, i }: { layout: PanelLayout; i: number }) {
  const { box, x, y, numbers } = layout;
  const value = numbers.points.find((point) => point.i === i)?.value;
  return (
    <g data-export="no" pointerEvents="none">
      <path d={`M${x(i)} ${box.top}V${box.bottom}`} stroke="var(--ink-soft)" strokeWidth="0.8" strokeDasharray="2 3" />
      {value != null && (
        <circle cx={x(i)} cy={y(value)} r="5.5" fill="var(--slate)" stroke="var(--sheet)" strokeWidth="1.5" />
      )}
    </g>
  );
}

/** The stretch that the limits rest on, as a bar under the panel. */
function Baseline({ layout, baseline }: { layout: PanelLayout; baseline: { first: number; last: number } }) {
  const { box, x } = layout;
  const left = Math.max(box.left, x(baseline.first - 0.3));
  const right = Math.min(box.right, x(baseline.last + 0.3));
  if (right <= left) return null;
  return (
    <g>
      <rect
        x={left}
        width={right - left}
        y={box.bottom + 13}
        height="7"
        rx="3.5"
        fill="var(--moss)"
        fillOpacity="0.28"
      />
      <text x={(left + right) / 2} y={box.bottom + 36} textAnchor="middle" fontSize="12" fill="var(--moss)">
        limits from values {baseline.first + 1} to {baseline.last + 1}
      </text>
    </g>
  );
}

/** Moments at regular points where the points have them, else round point numbers. */
function PointAxis({ layout, points, order }: { layout: PanelLayout; points: PointNumbers[]; order: string }) {
  const { box, x } = layout;
  const wide = box.right - box.left;
  const timed = points[0] !== undefined && /^\d{4}-\d{2}-\d{2} /.test(points[0].label);
  const every = Math.max(1, Math.ceil(points.length / Math.max(2, Math.floor(wide / 130))));
  const moments = points
    .filter((_, index) => index % every === 0)
    .map(({ i, label }) => ({ i, text: shortTime(label) }));
  const [low = 0, high = 0] = x.domain();
  const numbered = x
    .ticks(Math.max(2, Math.floor(wide / 90)))
    .map((tick) => ({ i: tick === 0 ? 0 : tick - 1, text: grouped(tick === 0 ? 1 : tick) }))
    .filter(({ i }) => Number.isInteger(i) && i >= low && i <= high);
  const ticks = timed ? moments : numbered;
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="middle">
      {ticks.map(({ i, text }) => (
        <text key={i} x={x(i)} y={box.bottom + 18}>
          {text}
        </text>
      ))}
      <text x={(box.left + box.right) / 2} y={box.bottom + 37}>
        {order}
      </text>
    </g>
  );
}

function summary(numbers: Schema["ControlChartNumbers"], name: string): string {
  const signals = numbers.panels.reduce((sum, panel) => sum + panel.signal_count, 0);
  return `Control chart of ${name}: ${numbers.points} points, ${signals === 0 ? "no signal" : `${signals} signals`}. Arrow keys go from point to point.`;
}

function spoken(point: PointNumbers, panels: Schema["PanelNumbers"][], writer: Writer): string {
  const value = point.value == null ? "missing" : writer.value(point.value);
  const patterns = panels.flatMap((panel) => panel.signals.filter((s) => point.i >= s.first && point.i <= s.last));
  const signals = [...new Set(patterns.map((signal) => signal.pattern.replaceAll("-", " ")))];
  return `${point.label}: ${value}${signals.length > 0 ? `, signal: ${signals.join(", ")}` : ""}${point.omitted ? ", left out of the limits" : ""}`;
}
