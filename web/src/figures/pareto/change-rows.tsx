import type { RefObject } from "react";
import type { Schema } from "../../api/client";
import { chance, counted, fixed, grouped } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size } from "../../study/figure";
import { placeChange } from "./layout";

type Change = Schema["ParetoChange"];
type Props = { change: Change; name: string; size: Size; figure: RefObject<SVGSVGElement | null> };

/** Two bars a kind, before over after; what changed by more than chance is marked with the side it went to. */
export function ChangeRows({ change, name, size, figure }: Props) {
  const { rows, unseen, x, high } = placeChange(change, size.width, size.height);
  const [before, after] = change.labels;
  const [left = 0] = x.range();
  const thick = Math.min(14, high / 2 - 3);
  const what = change.inspected ? "per piece inspected" : "as a share of all defects";
  const moved = change.kinds.filter(({ changed }) => changed !== 0).length;
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Kinds of ${name}, ${before} and ${after}: ${counted(moved, "kind", "kinds")} changed by more than chance.`}
    >
      <Heading x={16} y={28}>
        Kinds of {name}, {what}
      </Heading>
      <g fontSize="12" fill="var(--ink-soft)">
        <rect x="16" y="41" width="16" height="8" rx="1.5" fill="var(--slate-soft)" />
        <text x="38" y="50">
          {before}
        </text>
        <rect x="206" y="41" width="16" height="8" rx="1.5" fill="var(--slate)" />
        <text x="228" y="50">
          {after}
        </text>
        {unseen > 0 && (
          <text x={size.width - 24} y={28} textAnchor="end">
            {counted(unseen, "kind has", "kinds have")} no room here; the ledger has all
          </text>
        )}
      </g>
      {rows.map(({ kind, y }) => {
        const [was, is] = [kind.rate_before ?? 0, kind.rate_after ?? 0];
        const colour = kind.changed === 0 ? "var(--slate)" : "var(--plum)";
        const end = Math.max(x(was), x(is)) + 8;
        return (
          <g key={kind.category} fontSize="12.5">
            <text x="16" y={y + high / 2 + 4} fill="var(--ink)">
              {kind.category.length > 22 ? `${kind.category.slice(0, 21)}…` : kind.category}
            </text>
            <rect
              x={left}
              y={y + high / 2 - thick - 1}
              width={Math.max(1, x(was) - left)}
              height={thick}
              rx="1.5"
              fill="var(--slate-soft)"
            />
            <rect
              x={left}
              y={y + high / 2 + 1}
              width={Math.max(1, x(is) - left)}
              height={thick}
              rx="1.5"
              fill={colour}
            />
            <text x={end} y={y + high / 2 + 4} fill="var(--ink)" fontWeight={kind.changed === 0 ? 400 : 600}>
              {kind.changed > 0 ? "▲ " : kind.changed < 0 ? "▼ " : ""}
              {`${share(kind.rate_before)} → ${share(kind.rate_after)}`}
              <tspan fontWeight="400" fill="var(--ink-soft)">
                {` (${grouped(kind.before)} → ${grouped(kind.after)}${kind.p_adjusted == null ? "" : `, ${chance(kind.p_adjusted)}`})`}
              </tspan>
            </text>
          </g>
        );
      })}
    </Sheet>
  );
}

const share = (rate: number | null | undefined) =>
  rate == null ? "none" : `${fixed(100 * rate, rate < 0.00995 ? 2 : rate < 0.0995 ? 1 : 0)} %`;
