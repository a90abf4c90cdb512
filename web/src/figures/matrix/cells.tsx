import { type RefObject, useMemo, useState } from "react";
import { chance, fixed } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Stepped } from "../../marks/stepped";
import type { Size } from "../../study/figure";
import { type Layout, type Numbers, pairsOf, placeCells, pointsOf } from "./layout";

type Props = {
  numbers: Numbers;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  onOpen: (x: string, y: string) => void;
};

const LETTER = 6.6;
const cut = (name: string, wide: number) => {
  const letters = Math.max(3, Math.floor(wide / LETTER));
  return name.length > letters ? `${name.slice(0, letters - 1)}…` : name;
};

/** Every pair of columns: points below the diagonal, r with its interval above it, each column's own bars on it. */
export function Cells({ numbers, size, figure, onOpen }: Props) {
  const layout = useMemo(() => placeCells(numbers, size.width, size.height), [numbers, size.width, size.height]);
  const pairs = useMemo(() => pairsOf(numbers), [numbers]);
  const [at, setAt] = useState<number | null>(null);
  const { left, top, side, tall } = layout;
  const name = (place: number) => numbers.columns[place]?.name ?? "";
  const words = (row: number, column: number) => {
    const r = numbers.pearson[row]?.[column];
    const p = numbers.p_holm[row]?.[column];
    const [low, high] = numbers.ci95[row]?.[column] ?? [];
    const likely = low === undefined || high === undefined ? "" : `, likely ${fixed(low, 2)} to ${fixed(high, 2)}`;
    const how =
      r == null ? "no correlation" : `r ${fixed(r, 2)}${likely}${p == null ? "" : `, ${chance(p)} for all pairs`}`;
    return `${name(row)} and ${name(column)}: ${how}`;
  };
  const chosen = at === null ? undefined : pairs[at];
  const flagged = pairs.filter(([row, column]) => numbers.flagged[row]?.[column]).length;
  const summary = `${pairs.length} pairs of ${numbers.columns.length} columns, ${flagged} go together. Left and right go from pair to pair, Enter opens its scatter.`;
  const open = (place: number) => {
    const [row, column] = pairs[place] ?? [];
    if (row !== undefined && column !== undefined) onOpen(name(column), name(row));
  };
  const pairAt = (x: number, y: number) => {
    const [column, row] = [Math.floor((x - left) / side), Math.floor((y - top) / tall)];
    if (row === column) return null;
    const found = pairs.findIndex(([a, b]) => a === Math.max(row, column) && b === Math.min(row, column));
    return found < 0 ? null : found;
  };
  return (
    <Stepped
      label="Pairs of columns"
      count={pairs.length}
      at={at}
      onAt={setAt}
      steps={{ ArrowRight: 1, ArrowLeft: -1, ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }}
      words={chosen ? words(...chosen) : summary}
      onEnter={open}
    >
      <Sheet
        figure={figure}
        size={size}
        label={summary}
        onPointerMove={(event) => {
          const corner = event.currentTarget.getBoundingClientRect();
          setAt(pairAt(event.clientX - corner.left, event.clientY - corner.top));
        }}
        onPointerLeave={() => setAt(null)}
        onPointerUp={() => at !== null && open(at)}
      >
        <Heading x={16} y={26}>
          Pairs
          <tspan dx="10" fontWeight="400" fill="var(--ink-soft)">
            {chosen ? words(...chosen) : "points below, r with its 95 % interval above; a pair opens its scatter"}
          </tspan>
        </Heading>
        {numbers.columns.map(({ name }, place) => (
          <text
            key={name}
            x={left - 8}
            y={top + tall * (place + 0.5) + 4}
            textAnchor="end"
            fontSize="12"
            fill="var(--ink)"
          >
            {cut(name, left - 16)}
          </text>
        ))}
        {numbers.columns.map(({ name }, place) => (
          <text
            key={name}
            x={left + side * (place + 0.5)}
            y={top + tall * numbers.columns.length + 15}
            textAnchor="middle"
            fontSize="12"
            fill="var(--ink-soft)"
          >
            {cut(name, side)}
          </text>
        ))}
        {numbers.columns.map((_, row) =>
          numbers.columns.map((_, column) => {
            const key = `${row} ${column}`;
            const [x, y] = [left + side * column, top + tall * row];
            const lit = chosen && Math.max(row, column) === chosen[0] && Math.min(row, column) === chosen[1];
            return (
              <g key={key} transform={`translate(${x},${y})`}>
                <rect
                  x="1.5"
                  y="1.5"
                  width={side - 3}
                  height={tall - 3}
                  rx="3"
                  fill={numbers.flagged[row]?.[column] ? "var(--moss)" : "var(--hairline)"}
                  fillOpacity={numbers.flagged[row]?.[column] ? 0.1 : 0.25}
                  stroke={lit ? "var(--moss)" : "none"}
                  strokeWidth="2"
                />
                {row === column && <OwnBars numbers={numbers} at={row} layout={layout} />}
                {row > column && <Points numbers={numbers} row={row} column={column} layout={layout} />}
                {row < column && <Strength numbers={numbers} row={row} column={column} layout={layout} />}
              </g>
            );
          }),
        )}
      </Sheet>
    </Stepped>
  );
}

type PartProps = { numbers: Numbers; row: number; column: number; layout: Layout };

function OwnBars({ numbers, at, layout: { side, tall } }: { numbers: Numbers; at: number; layout: Layout }) {
  const counts = numbers.columns[at]?.bars.counts ?? [];
  const most = Math.max(1, ...counts);
  const wide = (side - 12) / counts.length;
  return (
    <g fill="var(--slate-mid)">
      {counts.map((count, place) => {
        const high = ((tall - 12) * count) / most;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: bars have no name of their own
          <rect key={place} x={6 + wide * place} y={tall - 6 - high} width={Math.max(0.5, wide - 0.6)} height={high} />
        );
      })}
    </g>
  );
}

function Points({ numbers, row, column, layout: { side, tall } }: PartProps) {
  const points = useMemo(() => pointsOf(numbers, column, row), [numbers, column, row]);
  const r = side < 60 ? 0.9 : 1.5;
  const path = points
    .map(([x, y]) => `M${(6 + (side - 12) * x).toFixed(1)} ${(tall - 6 - (tall - 12) * y).toFixed(1)}h0`)
    .join("");
  return <path d={path} stroke="var(--slate)" strokeOpacity="0.55" strokeWidth={2 * r} strokeLinecap="round" />;
}

/** r from −1 at the left to 1 at the right, with its interval. */
function Strength({ numbers, row, column, layout: { side, tall } }: PartProps) {
  const r = numbers.pearson[row]?.[column];
  if (r == null) return null;
  const [low = r, high = r] = numbers.ci95[row]?.[column] ?? [];
  const x = (value: number) => 8 + ((side - 16) * (value + 1)) / 2;
  const flagged = numbers.flagged[row]?.[column];
  const y = tall * 0.66;
  return (
    <g>
      <path d={`M${x(-1)} ${y}H${x(1)}`} stroke="var(--hairline)" />
      <path d={`M${x(0)} ${y - 4}v8`} stroke="var(--ink-soft)" />
      <path
        d={`M${x(low)} ${y}H${x(high)}`}
        stroke={flagged ? "var(--moss)" : "var(--slate-mid)"}
        strokeWidth={Math.min(7, tall * 0.16)}
        strokeLinecap="round"
        strokeOpacity="0.75"
      />
      <circle cx={x(r)} cy={y} r={Math.min(3.6, tall * 0.1)} fill="var(--ink)" />
      {side > 34 && tall > 26 && (
        <text
          x={side / 2}
          y={tall * 0.4}
          textAnchor="middle"
          fontSize={side > 60 ? 13 : 10.5}
          fontWeight={flagged ? 700 : 400}
          fill="var(--ink)"
        >
          {fixed(r, 2)}
        </text>
      )}
    </g>
  );
}
