import { type RefObject, useMemo, useState } from "react";
import { chance, counted, percent } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Stepped } from "../../marks/stepped";
import type { Size } from "../../study/figure";
import { type Found, type Layout, type Numbers, placeRows, type Row } from "./layout";

type Props = {
  numbers: Numbers;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  onOpen: (found: Found) => void;
};

const words = ({ column, adjusted, p_screen, over }: Found) => {
  if (adjusted == null || p_screen == null) return `${column}: nothing to measure`;
  const label = over
    ? `; ${over.label} holds ${percent(over.share)} of them and ${percent(over.share_of_all)} of all`
    : "";
  return `${column}: explains ${percent(adjusted)}, ${chance(p_screen)} for the whole screen${label}`;
};

/** Columns ranked by what they explain, each with a small picture; Enter or a click opens the full study. */
export function Ranked({ numbers, size, figure, onOpen }: Props) {
  const layout = useMemo(() => placeRows(numbers, size.width, size.height), [numbers, size.width, size.height]);
  const [at, setAt] = useState<number | null>(null);
  const { rows, high, bars, picture } = layout;
  const found = at === null ? undefined : rows[at]?.found;
  const summary = `What goes with ${numbers.subject}: ${rows
    .slice(0, 4)
    .map(({ found }) => words(found))
    .join("; ")}. Up and down go from column to column, Enter opens the full study.`;
  const rowAt = (y: number) => {
    const place = rows.findIndex(({ top }) => y >= top && y < top + high);
    return place < 0 ? null : place;
  };
  const open = (place: number) => {
    const found = rows[place]?.found;
    if (found?.study) onOpen(found);
  };
  return (
    <Stepped
      label={`What goes with ${numbers.subject}`}
      count={rows.length}
      at={at}
      onAt={setAt}
      steps={{ ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }}
      words={found ? words(found) : summary}
      onEnter={open}
      vertical
    >
      <Sheet
        figure={figure}
        size={size}
        label={summary}
        onPointerMove={(event) => setAt(rowAt(event.clientY - event.currentTarget.getBoundingClientRect().top))}
        onPointerLeave={() => setAt(null)}
        onPointerUp={() => at !== null && open(at)}
      >
        <Heading x={18} y={26}>
          Part of {numbers.subject} explained
          <tspan dx="10" fontWeight="400" fill="var(--ink-soft)">
            {found ? words(found) : "without what chance adds for each label"}
          </tspan>
        </Heading>
        <Scale layout={layout} />
        {rows.map((row, place) => (
          <g key={row.found.column}>
            {at === place && (
              <rect
                data-export="no"
                x="8"
                y={row.top + 1}
                width={size.width - 16}
                height={high - 2}
                rx="6"
                fill="var(--moss)"
                fillOpacity="0.08"
              />
            )}
            <Strip row={row} layout={layout} />
            <g transform={`translate(${picture.left},${row.top + 5})`}>
              <Small found={row.found} wide={picture.right - picture.left} high={high - 10} />
            </g>
          </g>
        ))}
        {layout.untold > 0 && (
          <text x={bars.left} y={size.height - 10} fontSize="12" fill="var(--ink-soft)">
            {counted(layout.untold, "more column explains", "more columns explain")} less; the ledger has each.
          </text>
        )}
      </Sheet>
    </Stepped>
  );
}

function Scale({ layout: { bars, rows, high, whole } }: { layout: Layout }) {
  const x = (share: number) => bars.left + (bars.right - bars.left) * share;
  const bottom = (rows.at(-1)?.top ?? 0) + high;
  return (
    <g fontSize="11.5" fill="var(--ink-soft)" textAnchor="middle">
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <path d={`M${x(share)} 54V${bottom}`} stroke="var(--hairline)" strokeOpacity="0.6" />
          <text x={x(share)} y="48">
            {share === 0 ? "0 %" : percent(share * whole)}
          </text>
        </g>
      ))}
    </g>
  );
}

function Strip({ row: { found, top }, layout: { bars, names, high, whole } }: { row: Row; layout: Layout }) {
  const wide = (bars.right - bars.left) / whole;
  const middle = top + high / 2;
  const part = found.adjusted ?? 0;
  const letters = Math.floor((names - 18) / 7);
  const thick = Math.min(18, high * 0.42);
  return (
    <g>
      <text
        x={names}
        y={middle + 4}
        textAnchor="end"
        fontSize="13"
        fontWeight={found.beyond ? 700 : 400}
        fill={found.beyond ? "var(--ink)" : "var(--ink-soft)"}
      >
        {found.column.length > letters ? `${found.column.slice(0, letters - 1)}…` : found.column}
      </text>
      <rect
        x={bars.left}
        y={middle - thick / 2}
        width={Math.max(1, wide * part)}
        height={thick}
        rx="3"
        fill={found.beyond ? "var(--moss)" : "var(--slate-mid)"}
        fillOpacity={found.beyond ? 1 : 0.5}
      />
      {found.explained != null && found.explained > part && (
        // What chance adds for each label.
        <path
          d={`M${bars.left + wide * part} ${middle}H${bars.left + wide * found.explained}`}
          stroke="var(--ink-soft)"
          strokeDasharray="2 3"
        />
      )}
      <text x={bars.right + 10} y={middle + 4} fontSize="12" fill={found.beyond ? "var(--ink)" : "var(--ink-soft)"}>
        {found.adjusted == null ? "none" : percent(part)}
        <tspan dx="6" fontSize="11" fill="var(--ink-soft)">
          {found.p_screen == null ? "" : chance(found.p_screen)}
        </tspan>
      </text>
    </g>
  );
}

/** How the two go together, small. */
function Small({ found: { picture, beyond, over }, wide, high }: { found: Found; wide: number; high: number }) {
  const colour = beyond ? "var(--moss)" : "var(--slate-mid)";
  if (picture.picture === "points") {
    return (
      <g fill={colour} fillOpacity="0.6">
        {picture.points.map(([x = 0, y = 0], place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: points have no name of their own
          <circle key={place} cx={4 + (wide - 8) * x} cy={high - 3 - (high - 6) * y} r="1.8" />
        ))}
      </g>
    );
  }
  if (picture.picture === "levels") {
    const step = wide / picture.levels.length;
    const y = (at: number) => high - 4 - (high - 16) * at - (high > 36 ? 9 : 0);
    return (
      <g>
        <path d={`M0 ${y(picture.all)}H${wide}`} stroke="var(--hairline)" strokeWidth="1.4" />
        {picture.levels.map(({ label, at }, place) => (
          <g key={label}>
            <path
              d={`M${step * (place + 0.5)} ${y(picture.all)}V${y(at)}`}
              stroke={label === over?.label ? "var(--plum)" : colour}
              strokeWidth={Math.min(10, step * 0.5)}
            />
            <circle cx={step * (place + 0.5)} cy={y(at)} r="2.6" fill="var(--ink)" />
            {high > 36 && step > 15 && (
              <text x={step * (place + 0.5)} y={high} textAnchor="middle" fontSize="10.5" fill="var(--ink-soft)">
                {label.slice(0, Math.max(1, Math.floor(step / 6)))}
              </text>
            )}
          </g>
        ))}
      </g>
    );
  }
  return null;
}
