import { type KeyboardEvent, type PointerEvent, type RefObject, useMemo, useRef, useState } from "react";
import type { Schema } from "../../api/client";
import { grouped, shortTime, writerOf } from "../../lib/format";
import { nearestPoint, type PanelLayout, type PointNumbers } from "../../marks/panel-layout";
import { Sheet } from "../../marks/sheet";
import { signalKey } from "../../marks/tone";
import type { Cut } from "../../study/statement/words";
import { CutHandles } from "./cut-handles";
import { layoutPanels } from "./layout";
import { Panel } from "./panel";
import { Pins } from "./pins";
import { Band, type Stretch, type StretchActions, StretchMenu } from "./selection";
import { Tip } from "./tip";

export type Shown = { zones: boolean; fences: boolean };

type Props = StretchActions & {
  numbers: Schema["ControlChartNumbers"];
  notes: Schema["Note"][];
  /** What is measured, for titles. */
  name: string;
  /** What the points are ordered by, for the axis. */
  order: string;
  limits: { lsl?: number | null; usl?: number | null };
  /** The stretch that the limits rest on, when it is not all. */
  baseline: Stretch | null;
  cuts: Cut[];
  onMoveCut: (from: number, to: number) => void;
  size: { width: number; height: number };
  view: Stretch;
  shown: Shown;
  signals: Schema["StudySignals"] | undefined;
  chosen: string | null;
  onChoose: (address: string) => void;
  lit: string | null;
  onLight: (letter: string | null) => void;
  figure: RefObject<SVGSVGElement | null>;
};

const NO_LIMITS = {};
const NONE: Schema["PastSignal"][] = [];
/** A drag shorter than this is a click. */
const DRAG_PIXELS = 5;

/** The panels of a control chart on one x axis. */
export function ControlChart(props: Props) {
  const { numbers, size, view, shown, name, notes, lit, onLight, signals, chosen, onChoose } = props;
  const limits = shown.fences ? props.limits : NO_LIMITS;
  const [at, setAt] = useState<number | null>(null);
  const [stretch, setStretch] = useState<Stretch | null>(null);
  const [dragging, setDragging] = useState(false);
  const start = useRef<{ point: number; x: number } | null>(null);
  const panels = useMemo(
    () => layoutPanels(numbers, size.width, size.height, view.first, view.last, limits),
    [numbers, size.width, size.height, view.first, view.last, limits],
  );
  const known = useMemo(
    () => new Map(signals?.signals.map((one) => [signalKey(one.panel, one.pattern, one.first), one])),
    [signals],
  );
  const points = numbers.panels[0]?.points ?? [];
  const point = at === null ? undefined : points.find((point) => point.i === at);
  const top = panels[0];

  const pointAt = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const place = top?.x.invert(event.clientX - box.left) ?? 0;
    return {
      place: Math.max(view.first, Math.min(view.last, Math.round(place))),
      nearest: nearestPoint(points, place),
    };
  };
  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    start.current = { point: pointAt(event).place, x: event.clientX };
    setStretch(null);
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const { place, nearest } = pointAt(event);
    const from = start.current;
    if (!from) return setAt(nearest?.i ?? null);
    if (!dragging && Math.abs(event.clientX - from.x) < DRAG_PIXELS) return;
    if (!dragging) {
      event.currentTarget.setPointerCapture(event.pointerId);
      setDragging(true);
      setAt(null);
    }
    setStretch({ first: Math.min(from.point, place), last: Math.max(from.point, place) });
  };
  const onPointerUp = () => {
    start.current = null;
    setDragging(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }[event.key];
    const place = points.findIndex((point) => point.i === at);
    if (event.key === "Escape") {
      setAt(null);
      setStretch(null);
    }
    const wanted = event.key === "Home" ? 0 : event.key === "End" ? points.length - 1 : step && place + step;
    if (wanted === undefined) return;
    event.preventDefault();
    const next = points[Math.max(0, Math.min(points.length - 1, wanted))]?.i ?? null;
    if (event.shiftKey && at !== null && next !== null) {
      // The end that moves is the one where the point is.
      const fixed = stretch ? (stretch.first === at ? stretch.last : stretch.first) : at;
      setStretch({ first: Math.min(fixed, next), last: Math.max(fixed, next) });
    } else {
      setStretch(null);
    }
    setAt(next);
  };

  return (
    <div className="relative h-full">
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Points of ${name}`}
        aria-valuemin={1}
        aria-valuemax={numbers.points}
        aria-valuenow={(at ?? view.first) + 1}
        aria-valuetext={point ? spoken(point, numbers) : summary(numbers, name)}
        onKeyDown={onKeyDown}
        onBlur={() => setAt(null)}
        className="h-full rounded-xl"
      >
        <Sheet
          figure={props.figure}
          size={size}
          label={summary(numbers, name)}
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerLeave={() => setAt(null)}
        >
          {panels.map((panel) => (
            <g key={panel.index}>
              <PanelWithTitle numbers={numbers} layout={panel} name={name} zones={shown.zones} />
              <Pins
                layout={panel}
                notes={notes}
                known={known}
                past={signals?.past ?? NONE}
                chosen={chosen}
                lit={lit}
                onLight={onLight}
                onChoose={onChoose}
              />
              {stretch && <Band layout={panel} stretch={stretch} />}
              {point && <Cross layout={panel} i={point.i} />}
            </g>
          ))}
          {top && props.baseline && <Baseline layout={top} baseline={props.baseline} many={`${numbers.point_word}s`} />}
          {panels.at(-1) && <PointAxis layout={panels.at(-1) as PanelLayout} points={points} order={props.order} />}
        </Sheet>
      </div>
      {top && props.cuts.length > 0 && (
        <svg width={size.width} height={size.height} className="no-print pointer-events-none absolute inset-0">
          <title>Cuts between phases</title>
          <CutHandles layout={top} cuts={props.cuts} points={numbers.points} onMove={props.onMoveCut} />
        </svg>
      )}
      {point && top && !stretch && (
        <Tip point={point} numbers={numbers} writer={writerOf(top.numbers.writer)} x={top.x(point.i)} layout={top} />
      )}
      {stretch && top && !dragging && stretch.last > stretch.first && (
        <StretchMenu
          {...props}
          stretch={stretch}
          layout={top}
          many={`${numbers.point_word}s`}
          onClear={() => setStretch(null)}
        />
      )}
    </div>
  );
}

type TitledProps = {
  numbers: Schema["ControlChartNumbers"];
  layout: PanelLayout;
  name: string;
  zones: boolean;
};

function PanelWithTitle({ numbers, layout, name, zones }: TitledProps) {
  const writer = useMemo(() => writerOf(layout.numbers.writer), [layout.numbers.writer]);
  const { title } = layout.numbers;
  const subject = layout.numbers === numbers.panels[0] && name ? `, ${name}` : "";
  const unit = writer.unit && ` (${writer.unit})`;
  return <Panel layout={layout} title={`${title}${subject}${unit}`} writer={writer} zones={zones} />;
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
function Baseline({ layout, baseline, many }: { layout: PanelLayout; baseline: Stretch; many: string }) {
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
        limits from {many} {baseline.first + 1} to {baseline.last + 1}
      </text>
    </g>
  );
}

/** Moments or names at regular points where the points have them, else round point numbers. */
function PointAxis({ layout, points, order }: { layout: PanelLayout; points: PointNumbers[]; order: string }) {
  const { box, x } = layout;
  const wide = box.right - box.left;
  const timed = points[0] !== undefined && /^\d{4}-\d{2}-\d{2} /.test(points[0].label);
  const named = points[0] !== undefined && points[0].label !== String(points[0].i + 1);
  const room = timed ? 130 : 64;
  const every = Math.max(1, Math.ceil(points.length / Math.max(2, Math.floor(wide / room))));
  const labels = points
    .filter((_, index) => index % every === 0)
    .map(({ i, label }) => ({ i, text: shortTime(label) }));
  const [low = 0, high = 0] = x.domain();
  const numbered = x
    .ticks(Math.max(2, Math.floor(wide / 90)))
    .map((tick) => ({ i: tick === 0 ? 0 : tick - 1, text: grouped(tick === 0 ? 1 : tick) }))
    .filter(({ i }) => Number.isInteger(i) && i >= low && i <= high);
  const ticks = timed || named ? labels : numbered;
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="middle">
      {ticks.map(({ i, text }) => (
        <text key={i} x={x(i)} y={box.bottom + 18}>
          {text.length > 14 ? `${text.slice(0, 13)}…` : text}
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
  return `Control chart of ${name}: ${numbers.points} points, ${signals === 0 ? "no signal" : `${signals} signals`}. Arrow keys go from point to point, with Shift they choose a stretch.`;
}

function spoken(point: PointNumbers, { panels }: Schema["ControlChartNumbers"]): string {
  const writer = panels[0] && writerOf(panels[0].writer);
  const value = point.value == null ? "missing" : (writer?.value(point.value) ?? "");
  const found = panels.flatMap((panel) => panel.signals.filter((s) => point.i >= s.first && point.i <= s.last));
  const signals = [...new Set(found.map((signal) => signal.pattern.replaceAll("-", " ")))];
  return `${point.label}: ${value}${signals.length > 0 ? `, signal: ${signals.join(", ")}` : ""}${point.omitted ? ", left out of the limits" : ""}`;
}
