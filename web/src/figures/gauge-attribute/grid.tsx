import { scaleLinear } from "d3-scale";
import { type KeyboardEvent, type RefObject, useState } from "react";
import type { Schema } from "../../api/client";
import { counted, fixed } from "../../lib/format";
import { Letter } from "../../marks/letter";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size, Stretch } from "../../study/figure";
import { type GridPart, type Layout, type Numbers, placeGrid, placeOf } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  /** Pieces as they come, not the most divided first. */
  byName: boolean;
  notes: Schema["Note"][];
  lit: string | null;
  onLight: (letter: string | null) => void;
  onOpen: (stretch: Stretch) => void;
};

/** Pieces side by side, each operator's looks underneath: what does not agree is ringed. */
export function Grid({ numbers, name, size, figure, byName, notes, lit, onLight, onOpen }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const layout = placeGrid(numbers, size.width, size.height, byName);
  const { left, wide, parts, each, deep, top } = layout;
  const bands = Array.from({ length: Math.ceil(parts.length / each) }, (_, band) => band);
  const part = at === null ? undefined : parts[at];
  const here = at === null ? null : placeOf(layout, at);
  const open = (one: GridPart) => {
    const each = numbers.operators.length * numbers.trials;
    onOpen({ first: one.part * each, last: (one.part + 1) * each - 1 });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }[event.key];
    if (event.key === "Escape") setAt(null);
    if (event.key === "Enter" && part) open(part);
    if (!step) return;
    event.preventDefault();
    setAt(Math.max(0, Math.min(parts.length - 1, (at ?? (step > 0 ? -1 : parts.length)) + step)));
  };
  const summary = `${counted(numbers.parts, "piece", "pieces")} judged by ${counted(numbers.operators.length, "operator", "operators")}. Left and right go from piece to piece, Enter opens its rows.`;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Judgements of ${name}`}
      aria-valuemin={1}
      aria-valuemax={parts.length}
      aria-valuenow={(at ?? 0) + 1}
      aria-valuetext={part ? partWords(numbers, part) : summary}
      onKeyDown={onKeyDown}
      onBlur={() => setAt(null)}
      className="relative h-full rounded-xl"
    >
      <Sheet
        figure={figure}
        size={size}
        label={summary}
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const column = Math.floor((event.clientX - box.left - left) / wide);
          const height = event.clientY - box.top;
          const band = bands.find((band) => height > top(band) - 10 && height < top(band) + deep + 50) ?? -1;
          const place = band * each + column;
          setAt(band >= 0 && column >= 0 && column < each && place < parts.length ? place : null);
        }}
        onPointerLeave={() => setAt(null)}
      >
        <Heading x={left} y={28}>
          {numbers.all_against ? "Every judgement against the reference" : "Every judgement"}
          {byName ? "" : ", most divided pieces first"}
        </Heading>
        <Key numbers={numbers} x={left} y={48} />
        {parts.length < numbers.parts && (
          <text x={left + wide * each} y={48} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
            {parts.length} of {numbers.parts} pieces
          </text>
        )}
        {here && (
          <rect
            data-export="no"
            x={here.x - wide / 2}
            width={wide}
            y={top(here.band) - 8}
            height={deep + 16}
            fill="var(--ink)"
            fillOpacity="0.06"
          />
        )}
        {bands.map((band) => (
          <RowNames key={band} numbers={numbers} layout={layout} band={band} />
        ))}
        <Cells numbers={numbers} layout={layout} />
        <Names layout={layout} />
        <Shares numbers={numbers} layout={layout} />
        {notes.map((note) => {
          const place = parts.findIndex(({ label }) => label === numbers.grid[note.pin?.first ?? -1]?.label);
          if (place < 0) return null;
          const { band, x } = placeOf(layout, place);
          return (
            <Letter
              key={note.letter}
              note={note}
              x={x}
              y={top(band) - 15}
              lit={note.letter === lit}
              onLight={onLight}
            />
          );
        })}
      </Sheet>
      {part && here && (
        <p
          aria-hidden
          className="pointer-events-none absolute z-10 max-w-80 -translate-x-1/2 rounded-lg border border-hairline bg-sheet px-2.5 py-1.5 text-[13px] shadow-lg"
          style={{
            left: Math.max(165, Math.min(size.width - 165, here.x)),
            top: Math.min(top(here.band) + deep + 8, size.height - 74),
          }}
        >
          {partWords(numbers, part)}
        </p>
      )}
    </div>
  );
}

/** What a label looks like: bad ones are full, good ones are hollow; more labels have a shade each. */
function Judgement({
  numbers,
  x,
  y,
  side,
  label,
}: {
  numbers: Numbers;
  x: number;
  y: number;
  side: number;
  label: number;
}) {
  const bad = numbers.bad == null ? label === numbers.labels.length - 1 : numbers.labels[label] === numbers.bad;
  const shade = numbers.labels.length > 2 ? 0.2 + (0.7 * label) / (numbers.labels.length - 1) : bad ? 0.9 : 0;
  const round = numbers.labels.length <= 2 && !bad;
  return round ? (
    <circle cx={x} cy={y} r={side / 2 - 0.8} fill="var(--sheet)" stroke="var(--moss)" strokeWidth="1.6" />
  ) : (
    <rect
      x={x - side / 2}
      y={y - side / 2}
      width={side}
      height={side}
      rx="2"
      fill="var(--slate)"
      fillOpacity={shade}
      stroke="var(--slate)"
      strokeWidth="1"
    />
  );
}

function Key({ numbers, x, y }: { numbers: Numbers; x: number; y: number }) {
  let at = x;
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {numbers.labels.slice(0, 8).map((label, place) => {
        const here = at + 6;
        at += 34 + 7 * label.length;
        return (
          <g key={label}>
            <Judgement numbers={numbers} x={here} y={y - 4} side={11} label={place} />
            <text x={here + 11} y={y}>
              {label}
            </text>
          </g>
        );
      })}
      <circle cx={at + 8} cy={y - 4} r="7" fill="none" stroke="var(--plum)" strokeWidth="2" />
      <text x={at + 20} y={y}>
        {numbers.all_against ? "not as the reference" : "not as most said"}
      </text>
    </g>
  );
}

/** What every judgement of a piece should be: the reference, or else what most said. */
function expected(part: GridPart): number | undefined {
  if (part.reference != null) return part.reference;
  const counts = new Map<number, number>();
  for (const label of part.ratings.flat()) counts.set(label, (counts.get(label) ?? 0) + 1);
  return [...counts].sort(([a, n], [b, m]) => m - n || a - b)[0]?.[0];
}

/** What the rows of a band are. */
function RowNames({ numbers, layout, band }: { numbers: Numbers; layout: Layout; band: number }) {
  const { left, high, row, top, hasReference } = layout;
  return (
    <g fontSize="12.5" fill="var(--ink)" textAnchor="end">
      {hasReference && (
        <text x={left - 12} y={top(band) + high / 2 + 4}>
          reference
        </text>
      )}
      {numbers.operators.map((label, operator) => (
        <text key={label} x={left - 12} y={row(band, operator) + (numbers.trials * high) / 2 + 4}>
          {label.length > 13 ? `${label.slice(0, 12)}…` : label}
        </text>
      ))}
    </g>
  );
}

function Cells({ numbers, layout }: { numbers: Numbers; layout: Layout }) {
  const { high, cell, parts, row, top } = layout;
  return (
    <g data-testid="judgements">
      {parts.map((part, place) => {
        const { band, x } = placeOf(layout, place);
        const should = expected(part);
        return (
          <g key={part.label}>
            {part.reference != null && (
              <Judgement numbers={numbers} x={x} y={top(band) + high / 2} side={cell} label={part.reference} />
            )}
            {part.ratings.flatMap((looks, operator) =>
              looks.map((label, look) => {
                const y = row(band, operator) + high * (look + 0.5);
                return (
                  // biome-ignore lint/suspicious/noArrayIndexKey: looks are told apart by their place
                  <g key={`${operator} ${look}`}>
                    <Judgement numbers={numbers} x={x} y={y} side={cell} label={label} />
                    {label !== should && (
                      <circle cx={x} cy={y} r={cell / 2 + 2.5} fill="none" stroke="var(--plum)" strokeWidth="2.2" />
                    )}
                  </g>
                );
              }),
            )}
          </g>
        );
      })}
    </g>
  );
}

function Names({ layout }: { layout: Layout }) {
  const { wide, parts, top, deep, each } = layout;
  const every = Math.max(1, Math.ceil(15 / wide));
  return (
    <g fontSize="11.5" fill="var(--ink-soft)">
      {parts.map(({ label }, place) => {
        if ((place % each) % every !== 0) return null;
        const { band, x } = placeOf(layout, place);
        return (
          <text key={label} transform={`translate(${x + 4},${top(band) + deep + 10}) rotate(-90)`} textAnchor="end">
            {label.length > 7 ? `${label.slice(0, 6)}…` : label}
          </text>
        );
      })}
    </g>
  );
}

/** Each operator's agreement with the reference, or with themselves, and its exact interval. */
function Shares({ numbers, layout }: { numbers: Numbers; layout: Layout }) {
  const { shares, row, high, top } = layout;
  const of = numbers.against ?? numbers.within;
  if (!of) return null;
  const x = scaleLinear([0, 1], [shares.left, shares.right - 44]);
  return (
    <g>
      <Heading x={shares.left} y={top(0) + 6}>
        {numbers.against ? "Agrees with the reference" : "Agrees with themselves"}
      </Heading>
      {of.map(({ operator, share, ci95, matched, inspected }, place) => {
        const y = row(0, place) + (numbers.trials * high) / 2;
        const errors = numbers.errors?.[place];
        return (
          <g key={operator}>
            <path d={`M${x(0)} ${y}H${x(1)}`} stroke="var(--hairline)" strokeWidth="6" />
            <path d={`M${x(0)} ${y}H${x(share)}`} stroke="var(--moss)" strokeWidth="6" />
            <path d={`M${x(ci95[0] ?? 0)} ${y}H${x(ci95[1] ?? 1)}`} stroke="var(--ink)" strokeWidth="1.6" />
            <text x={x(1) + 8} y={y + 4} fontSize="12.5" fontWeight="600" fill="var(--ink)">
              {fixed(100 * share, 0)} %
            </text>
            <text x={x(0)} y={y + 18} fontSize="11.5" fill="var(--ink-soft)">
              {errors
                ? `${errors.misses} missed, ${counted(errors.false_alarms, "false alarm", "false alarms")}`
                : `${matched} of ${inspected}`}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** "joint J14, bad: Ida good, bad; Mei bad, bad". */
function partWords(numbers: Numbers, part: GridPart): string {
  const said = part.ratings.map(
    (looks, operator) => `${numbers.operators[operator]} ${looks.map((label) => numbers.labels[label]).join(", ")}`,
  );
  const known = part.reference == null ? "" : `, ${numbers.labels[part.reference]} by the reference`;
  return `${part.label}${known}: ${said.join("; ")}`;
}
