import { type KeyboardEvent, type PointerEvent, type RefObject, useMemo, useState } from "react";
import type { Schema } from "../../api/client";
import { counted, fixed, type ValueFormat, writerOf } from "../../lib/format";
import { Letter } from "../letter";
import { Axis, FenceLine } from "../panel-marks";
import { SeriesMark, seriesColour } from "../series-mark";
import { Heading, Sheet } from "../sheet";
import { type Staircase as Layout, type Mark, type Numbers, pinPlace, placeStaircase, stairPath } from "./layout";
import { Operators } from "./operators";
import { Rulers } from "./rulers";

type Props = {
  numbers: Numbers;
  name: string;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
  /** What the steps are: every part for all operators, or parts of each operator. */
  title: string;
  /** Readings less the mean of their part. */
  deviation?: boolean;
  notes: Schema["Note"][];
  lit: string | null;
  onLight: (letter: string | null) => void;
};

/** A pointer farther than so many pixels from every reading points at none. */
const NEAR = 14;

/** Parts side by side as steps, lowest mean first, every reading on one value axis; beside it rulers, below it operators. */
export function Staircase({ numbers, name, size, figure, title, deviation = false, notes, lit, onLight }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const layout = useMemo(
    () => placeStaircase(numbers, size.width, size.height, deviation),
    [numbers, size.width, size.height, deviation],
  );
  const mark = at === null ? undefined : layout.marks[at];
  const words = summary(numbers, name);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }[event.key];
    if (event.key === "Escape") setAt(null);
    if (!step || layout.marks.length === 0) return;
    event.preventDefault();
    setAt(Math.max(0, Math.min(layout.marks.length - 1, (at ?? (step > 0 ? -1 : layout.marks.length)) + step)));
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setAt(nearest(layout, event.clientX - box.left, event.clientY - box.top));
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Readings of ${name}`}
      aria-valuemin={1}
      aria-valuemax={Math.max(1, layout.marks.length)}
      aria-valuenow={(at ?? 0) + 1}
      aria-valuetext={mark ? markWords(numbers, mark, writer, deviation) : words}
      onKeyDown={onKeyDown}
      onBlur={() => setAt(null)}
      className="relative h-full rounded-xl"
    >
      <Sheet figure={figure} size={size} label={words} onPointerMove={onPointerMove} onPointerLeave={() => setAt(null)}>
        <Heading x={layout.stairs.left} y={28}>
          {deviation ? "Readings less the mean of their part" : title}
          {writer.unit && ` (${writer.unit})`}
        </Heading>
        <Steps numbers={numbers} layout={layout} />
        <Axis layout={{ box: layout.stairs, y: layout.y }} writer={writer} />
        {layout.fences.map((fence) => (
          <FenceLine key={fence.side} layout={{ box: layout.stairs, y: layout.y }} {...fence} />
        ))}
        {layout.crowded ? <Strokes layout={layout} /> : <Readings numbers={numbers} layout={layout} />}
        <path
          d={stairPath(numbers, layout, deviation)}
          fill="none"
          stroke="var(--moss)"
          strokeWidth="1.5"
          strokeOpacity="0.85"
        />
        {!deviation && <Rulers numbers={numbers} layout={layout} />}
        <Operators numbers={numbers} layout={layout} writer={writer} />
        {notes.map((note) => {
          const place = pinPlace(layout, note, deviation);
          return (
            place && <Letter key={note.letter} note={note} {...place} lit={note.letter === lit} onLight={onLight} />
          );
        })}
        {mark && (
          <g data-export="no" data-testid="reading" pointerEvents="none">
            <circle cx={mark.x} cy={layout.y(mark.value)} r="8" fill="none" stroke="var(--ink)" strokeWidth="1.6" />
          </g>
        )}
      </Sheet>
      {mark && (
        <p
          aria-hidden
          className="pointer-events-none absolute z-10 -translate-x-1/2 whitespace-nowrap rounded-lg border border-hairline bg-sheet px-2.5 py-1.5 text-[13px] shadow-lg"
          style={{
            left: Math.max(150, Math.min(size.width - 150, mark.x)),
            top: Math.max(6, layout.y(mark.value) - 46),
          }}
        >
          {markWords(numbers, mark, writer, deviation)}
        </p>
      )}
    </div>
  );
}

/** The steps as stripes with the names of the parts, as many as have room. */
function Steps({ numbers, layout: { stairs, step } }: { numbers: Numbers; layout: Layout }) {
  const every = Math.max(1, Math.ceil(46 / step));
  const striped = step > 4;
  const seen = numbers.parts
    .map(({ label }, place) => ({ label, place }))
    .filter(({ place }) => striped || place % every === 0);
  return (
    <g>
      {seen.map(({ label, place }) => (
        <g key={label}>
          {place % 2 === 1 && striped && (
            <rect
              x={stairs.left + step * place}
              width={step}
              y={stairs.top - 8}
              height={stairs.bottom - stairs.top + 8}
              fill="var(--ink)"
              fillOpacity="0.025"
            />
          )}
          {place % every === 0 && (
            <text
              x={stairs.left + step * (place + 0.5)}
              y={stairs.bottom + 18}
              textAnchor="middle"
              fontSize="12"
              fill="var(--ink-soft)"
            >
              {label.length > 8 ? `${label.slice(0, 7)}…` : label}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

/** The readings of an operator on a part, held together by a thin stroke. */
function Readings({ numbers, layout: { marks, y } }: { numbers: Numbers; layout: Layout }) {
  const cells = new Map<string, Mark[]>();
  for (const mark of marks) {
    const key = `${mark.part} ${mark.operator}`;
    cells.set(key, [...(cells.get(key) ?? []), mark]);
  }
  return (
    <g data-testid="readings" data-parts={numbers.parts.length}>
      {[...cells].map(([key, cell]) => {
        const heights = cell.map(({ value }) => y(value));
        const [first] = cell;
        return (
          first && (
            <g key={key}>
              <path
                d={`M${first.x} ${Math.min(...heights)}V${Math.max(...heights)}`}
                stroke={seriesColour(first.operator)}
                strokeWidth="1"
                strokeOpacity="0.6"
              />
              {heights.map((height, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: readings of a cell have no other name
                <SeriesMark key={place} x={first.x} y={height} series={first.operator} />
              ))}
            </g>
          )
        );
      })}
    </g>
  );
}

/** Of very many parts one stroke each, from the smallest reading to the largest. */
function Strokes({ layout: { marks, stairs, step, y } }: { layout: Layout }) {
  const ends = new Map<number, [number, number]>();
  for (const { part, value } of marks) {
    const [low, high] = ends.get(part) ?? [value, value];
    ends.set(part, [Math.min(low, value), Math.max(high, value)]);
  }
  const strokes = [...ends].map(([part, [low, high]]) => `M${stairs.left + step * (part + 0.5)} ${y(low)}V${y(high)}`);
  return (
    <path
      d={strokes.join("")}
      stroke="var(--slate)"
      strokeWidth={Math.max(1, Math.min(5, step * 0.6))}
      strokeOpacity="0.6"
    />
  );
}

function nearest({ marks, y, crowded }: Layout, x: number, height: number): number | null {
  if (crowded) return null;
  let best: number | null = null;
  let least = NEAR * NEAR;
  marks.forEach((mark, place) => {
    const far = (mark.x - x) ** 2 + (y(mark.value) - height) ** 2;
    if (far < least) [best, least] = [place, far];
  });
  return best;
}

/** "H3 by Jonas: 1.192 mm, +0.0012 mm from the mean of the part". */
function markWords(numbers: Numbers, mark: Mark, writer: ValueFormat, deviation: boolean): string {
  const part = numbers.parts[mark.part];
  const mean = part?.mean ?? 0;
  const value = deviation ? mark.value + mean : mark.value;
  const off = value - mean;
  return `${part?.label} by ${numbers.operators[mark.operator]?.label}: ${writer.value(value)}, ${writer.signed(off)} from the mean of the part`;
}

function summary(numbers: Numbers, name: string): string {
  const share = numbers.share == null ? "" : ` The gauge takes ${fixed(100 * numbers.share, 1)} % of it.`;
  return `Gauge study of ${name}: ${counted(numbers.n, "reading", "readings")} of ${counted(numbers.parts.length, "part", "parts")} by ${counted(numbers.operators.length, "operator", "operators")}.${share} Left and right go from reading to reading.`;
}
