import type { RefObject } from "react";
import { chance } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size } from "../../study/figure";
import { largest, type Numbers, placeLayers, placeTiles, TIGHT } from "./layout";
import { TileMark } from "./tiles";

type Props = { numbers: Numbers; size: Size; figure: RefObject<SVGSVGElement | null> };

/** Tables side by side at most; the ledger has all. */
const SHOWN_MOST = 12;

/** The same tiles for each label of a third column, the shares of each row on one scale. */
export function Layers({ numbers, size, figure }: Props) {
  const layers = numbers.layers.slice(0, SHOWN_MOST);
  const boxes = placeLayers(layers.length, size.width, size.height);
  const matrices = layers.map(({ table }) => ({
    values: table.row_profile,
    ticks: table.rows.map(() => table.overall_profile),
  }));
  const most = Math.max(...matrices.map(largest));
  const rest = numbers.layers.length - layers.length;
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`The same tiles for each of ${numbers.layers.length} labels of ${numbers.third}.`}
    >
      <Heading x={16} y={26}>
        Share of each {numbers.names[1]}, for each {numbers.third}
        {rest > 0 ? ` (the first ${SHOWN_MOST} of ${numbers.layers.length})` : ""}
      </Heading>
      {layers.map(({ label, table }, place) => {
        const box = boxes[place];
        const matrix = matrices[place];
        if (!box || !matrix) return null;
        const room = { ...TIGHT, left: place === 0 || box.left < 20 ? 78 : 4 };
        const { tiles, rows, columns, grid, wide } = placeTiles(table, matrix, box, room, most);
        return (
          <g key={label} fontSize="12">
            <text x={grid.left} y={box.top + 12} fontWeight="600" fill="var(--ink)">
              {label}
              <tspan dx="8" fontWeight="400" fill={table.depends ? "var(--plum)" : "var(--ink-soft)"}>
                {table.p_used == null ? "" : chance(table.p_used)}
              </tspan>
            </text>
            {columns.map(({ label, x }) => (
              <text key={label} x={x} y={grid.top - 5} textAnchor="middle" fill="var(--ink-soft)">
                {label.length > wide / 7 ? `${label.slice(0, Math.max(1, Math.floor(wide / 7) - 1))}…` : label}
              </text>
            ))}
            {room.left > 10 &&
              rows.map(({ label, y }) => (
                <text key={label} x={grid.left - 6} y={y + 4} textAnchor="end" fill="var(--ink-soft)">
                  {label.length > 10 ? `${label.slice(0, 9)}…` : label}
                </text>
              ))}
            {tiles.map((tile) => (
              <TileMark key={`${tile.row} ${tile.column}`} tile={tile} words={null} write={String} />
            ))}
          </g>
        );
      })}
    </Sheet>
  );
}
