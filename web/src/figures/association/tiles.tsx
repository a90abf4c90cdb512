import { type RefObject, useState } from "react";
import { chance, fixed, grouped } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Stepped } from "../../marks/stepped";
import type { Size, Stretch } from "../../study/figure";
import { drawnOf, type Layout, LOW, type Matrix, type Numbers, placeTiles, type Table, type Tile } from "./layout";

type Props = {
  numbers: Numbers;
  title: string;
  /** What the bar and the tick are. */
  marks: { bar: string; tick?: string };
  matrix: Matrix;
  write: (value: number) => string;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  onOpen: (stretch: Stretch) => void;
};

/** A tile for each cell: a bar for what was seen, a tick for what was expected, all on one scale. */
export function Tiles({ numbers, title, marks, matrix, write, size, figure, onOpen }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const table = drawnOf(numbers);
  const box = { left: 0, right: size.width, top: 0, bottom: size.height };
  const layout = placeTiles(table, matrix, box);
  const { tiles } = layout;
  const tile = at === null ? undefined : tiles[at];
  const wide = layout.columns.length;
  // What is drawn as one stands for many cells, none of which is meant.
  const open = () => {
    if (!tile || numbers.drawn) return;
    const cell = tile.row * table.columns.length + tile.column;
    onOpen({ first: cell, last: cell });
  };
  const summary = `${title}: ${table.rows.length} rows by ${table.columns.length} columns of ${grouped(table.total)} counts. The arrows go from tile to tile, Enter opens its rows.`;
  return (
    <Stepped
      label={title}
      count={tiles.length}
      at={at}
      onAt={setAt}
      steps={{ ArrowRight: 1, ArrowLeft: -1, ArrowDown: wide, ArrowUp: -wide }}
      words={tile ? cellWords(table, tile) : summary}
      onEnter={open}
    >
      <Sheet
        figure={figure}
        size={size}
        label={summary}
        onPointerMove={(event) => {
          const corner = event.currentTarget.getBoundingClientRect();
          const [x, y] = [event.clientX - corner.left, event.clientY - corner.top];
          const inside = ({ box }: Tile) => x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
          const found = tiles.findIndex(inside);
          setAt(found < 0 ? null : found);
        }}
        onPointerLeave={() => setAt(null)}
        onPointerUp={open}
      >
        <Heading x={16} y={26}>
          {title}
        </Heading>
        <g fontSize="12" fill="var(--ink-soft)">
          <path d="M16 39h16" stroke="var(--slate)" strokeWidth="7" />
          <text x="38" y="43">
            {marks.bar}
          </text>
          {marks.tick && (
            <>
              <path d="M142 33v13" stroke="var(--ochre)" strokeWidth="2.6" />
              <text x="150" y="43">
                {marks.tick}
              </text>
            </>
          )}
          <circle cx="276" cy="39" r="7" fill="none" stroke="var(--plum)" strokeWidth="2" />
          <text x="290" y="43">
            stands out: + more, − fewer
          </text>
        </g>
        <Grid table={table} layout={layout} matrix={matrix} write={write} />
        <Totals layout={layout} total={table.total} />
        {tile && (
          <g data-export="no">
            <rect
              x={tile.box.left}
              y={tile.box.top}
              width={tile.box.right - tile.box.left}
              height={tile.box.bottom - tile.box.top}
              rx="6"
              fill="none"
              stroke="var(--moss)"
              strokeWidth="2"
            />
            <text x="16" y="64" fontSize="13" fill="var(--ink)">
              {cellWords(table, tile)}
            </text>
          </g>
        )}
      </Sheet>
    </Stepped>
  );
}

/** "night, haze: 31 seen; expected 61 × 70 / 192 = 22.2; adjusted residual +2.8". */
function cellWords(table: Table, { row, column }: Tile): string {
  const [seen, expected] = [table.observed[row]?.[column] ?? 0, table.expected[row]?.[column] ?? 0];
  const sums = [table.row_totals[row], table.column_totals[column], table.total].map((sum) => grouped(sum ?? 0));
  const residual = table.adjusted_residual[row]?.[column];
  const apart = residual == null ? "" : `; adjusted residual ${residual > 0 ? "+" : ""}${fixed(residual, 1)}`;
  const p = table.cell_p[row]?.[column];
  const likely = p == null ? "" : `, ${chance(p)}`;
  return `${table.rows[row]}, ${table.columns[column]}: ${grouped(seen)} seen; expected ${sums[0]} × ${sums[1]} / ${sums[2]} = ${fixed(expected, 1)}${apart}${likely}`;
}

const cut = (text: string, letters: number) =>
  text.length > letters ? `${text.slice(0, Math.max(1, letters - 1))}…` : text;

type GridProps = { table: Table; layout: Layout; matrix: Matrix; write: (value: number) => string };

function Grid({ layout, matrix, write }: GridProps) {
  const { tiles, rows, columns, grid, high, wide } = layout;
  const written = wide > 44 && high > 24;
  return (
    <g fontSize="12.5">
      {rows.map(({ label, y }) => (
        <text key={label} x={grid.left - 10} y={y + 4} textAnchor="end" fill="var(--ink)">
          {cut(label, 20)}
        </text>
      ))}
      {columns.map(({ label, x }) => (
        <text key={label} x={x} y={grid.top - 8} textAnchor="middle" fill="var(--ink)">
          {cut(label, Math.floor(wide / 6.8))}
        </text>
      ))}
      {tiles.map((tile) => (
        <TileMark
          key={`${tile.row} ${tile.column}`}
          tile={tile}
          words={written ? (matrix.values[tile.row]?.[tile.column] ?? null) : null}
          write={write}
        />
      ))}
    </g>
  );
}

/** One tile. */
export function TileMark({
  tile: { box, bar, tick, stands },
  words,
  write,
}: {
  tile: Tile;
  words: number | null;
  write: (value: number) => string;
}) {
  const [wide, high] = [box.right - box.left, box.bottom - box.top];
  const inset = Math.min(7, wide / 8);
  const thick = Math.max(3, Math.min(16, high * 0.34));
  // A low tile has its number beside the bar, a high one above it.
  const low = high < LOW;
  const middle = words === null || low ? box.top + high / 2 : box.top + high * 0.64;
  const ring = Math.min(8, high / 3.2);
  return (
    <g>
      <rect x={box.left} y={box.top} width={wide} height={high} rx="5" fill="var(--ink)" fillOpacity="0.035" />
      {bar !== null && (
        <rect
          x={box.left + inset}
          y={middle - thick / 2}
          width={Math.max(0, bar - box.left - inset)}
          height={thick}
          rx="1.5"
          fill={stands ? "var(--plum)" : "var(--slate)"}
          fillOpacity="0.85"
        />
      )}
      {tick !== null && (
        <path d={`M${tick} ${middle - thick / 2 - 4}v${thick + 8}`} stroke="var(--ochre)" strokeWidth="2.6" />
      )}
      {words !== null && (
        <text
          x={low ? Math.max(bar ?? 0, tick ?? 0) + 7 : box.left + inset}
          y={low ? middle + 4 : box.top + Math.max(13, high * 0.28)}
          fill="var(--ink)"
        >
          {write(words)}
        </text>
      )}
      {stands !== 0 && (
        <g transform={`translate(${box.right - ring - 4} ${box.top + ring + 3})`}>
          <circle r={ring} fill="var(--sheet)" stroke="var(--plum)" strokeWidth="2" />
          <path
            d={`M${-ring / 2} 0h${ring}${stands > 0 ? `M0 ${-ring / 2}v${ring}` : ""}`}
            stroke="var(--plum)"
            strokeWidth="2"
          />
        </g>
      )}
    </g>
  );
}

/** Totals as bars along the right and the lower edge. */
function Totals({ layout, total }: { layout: Layout; total: number }) {
  const { rows, columns, across, down, grid, high, wide } = layout;
  const thick = Math.min(14, high * 0.4);
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {rows.map(({ label, y, total }) => (
        <g key={label}>
          <rect x={grid.right + 8} y={y - thick / 2} width={across(total)} height={thick} rx="1.5" fillOpacity="0.4" />
          <text x={grid.right + 12 + across(total)} y={y + 4}>
            {grouped(total)}
          </text>
        </g>
      ))}
      {columns.map(({ label, x, total }) => (
        <g key={label}>
          <rect
            x={x - wide * 0.2}
            y={grid.bottom + 6}
            width={wide * 0.4}
            height={down(total)}
            rx="1.5"
            fillOpacity="0.4"
          />
          {wide > 30 && (
            <text x={x} y={grid.bottom + 20 + down(total)} textAnchor="middle">
              {grouped(total)}
            </text>
          )}
        </g>
      ))}
      <text x={grid.right + 8} y={grid.bottom + 20}>
        all {grouped(total)}
      </text>
    </g>
  );
}
