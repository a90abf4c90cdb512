import type { RefObject } from "react";
import { counted, fixed } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size } from "../../study/figure";
import { type Numbers, placeOwn } from "./layout";

type Props = { numbers: Numbers; name: string; size: Size; figure: RefObject<SVGSVGElement | null> };

/** Each group in its own order, the shares of all on one scale. */
export function OwnRows({ numbers, name, size, figure }: Props) {
  const boxes = placeOwn(numbers.groups, size.width, size.height);
  const first = numbers.overall.bars[0]?.category;
  const rest = numbers.groups.length - boxes.length;
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Kinds of ${name}, each of ${counted(numbers.groups.length, "group", "groups")} in its own order.`}
    >
      <Heading x={16} y={26}>
        Kinds of {name}, each group in its own order
        {rest > 0 ? ` (the first ${boxes.length} of ${numbers.groups.length})` : ""}
      </Heading>
      {boxes.map(({ label, box, x, rows, high, unseen }) => {
        const start = box.left + (box.right - box.left) * 0.5;
        return (
          <g key={label} fontSize={Math.min(12.5, high - 1)}>
            <text x={box.left} y={box.top - 8} fontSize="12.5" fontWeight="600" fill="var(--ink)">
              {label}
              {unseen > 0 && (
                <tspan dx="8" fontWeight="400" fill="var(--ink-soft)">
                  {counted(unseen, "more kind", "more kinds")}
                </tspan>
              )}
            </text>
            {rows.map(({ row, y }, place) => {
              const share = row.share ?? 0;
              // A leader of its own.
              const own = place === 0 && row.label !== first;
              const letters = Math.floor(((box.right - box.left) * 0.5) / 6.8);
              return (
                <g key={row.folded ? "folded" : row.label}>
                  <text
                    x={start - 8}
                    y={y + high / 2 + 4}
                    textAnchor="end"
                    fill={row.folded ? "var(--ink-soft)" : "var(--ink)"}
                  >
                    {row.label.length > letters ? `${row.label.slice(0, letters - 1)}…` : row.label}
                  </text>
                  <rect
                    x={start}
                    y={y + 2}
                    width={Math.max(1, x(share))}
                    height={Math.max(2, high - 4)}
                    rx="1.5"
                    fill={row.folded ? "var(--ink-soft)" : own ? "var(--plum)" : "var(--slate)"}
                    fillOpacity={row.folded ? 0.35 : 0.85}
                  />
                  <text x={start + x(share) + 5} y={y + high / 2 + 4} fill="var(--ink)">
                    {fixed(100 * share, share < 0.0995 ? 1 : 0)} %
                  </text>
                </g>
              );
            })}
          </g>
        );
      })}
    </Sheet>
  );
}
