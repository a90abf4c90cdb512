import { type PointerEvent, type RefObject, useMemo, useState } from "react";
import { counted, type ValueFormat, writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Stepped } from "../../marks/stepped";
import type { Size, Stretch } from "../../study/figure";
import { Families, familyWords, levelColour } from "./families";
import { type Cell, type Layout, links, type Numbers, placeLevels } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: Size;
  shown: Record<string, boolean>;
  figure: RefObject<SVGSVGElement | null>;
  onOpen: (cells: Stretch) => void;
};

/** More outer levels are not divided by lines. */
const DIVIDED_MOST = 24;

/** Every value with the means of each level; a family that is pointed at lights what shows it. */
export function Levels({ numbers, name, size, shown, figure, onOpen }: Props) {
  const layout = useMemo(() => placeLevels(numbers, size.width, size.height), [numbers, size.width, size.height]);
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const [lit, setLit] = useState<number | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const { cells, families } = layout;
  const cell = at === null ? undefined : cells[at];
  const over = numbers.factors.map(({ name }) => name).join(", ");
  const words = numbers.families.map(familyWords).join("; ");
  const summary = `${name} over ${over}. ${words}. Left and right go from cell to cell, Enter opens its rows.`;
  const near = (event: PointerEvent<SVGSVGElement>) => {
    const left = event.clientX - event.currentTarget.getBoundingClientRect().left;
    if (left > layout.box.right + layout.half || cells.length === 0) return null;
    let best = 0;
    cells.forEach(({ x }, place) => {
      if (Math.abs(x - left) < Math.abs((cells[best]?.x ?? 0) - left)) best = place;
    });
    return best;
  };
  const open = (place: number) => {
    const cell = cells[place];
    if (cell) onOpen({ first: cell.at, last: cell.at });
  };
  return (
    <div className="relative h-full">
      <Stepped
        label={`${name} over ${over}`}
        count={cells.length}
        at={at}
        onAt={setAt}
        steps={{ ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }}
        words={cell ? cellWords(cell, writer) : summary}
        onEnter={open}
      >
        <Sheet
          figure={figure}
          size={size}
          label={summary}
          onPointerMove={(event) => setAt(near(event))}
          onPointerLeave={() => setAt(null)}
          onPointerUp={(event) => {
            const place = near(event);
            if (place !== null) open(place);
          }}
        >
          <Heading x={16} y={26}>
            {[name, writer.unit && `(${writer.unit})`].filter(Boolean).join(" ")}
            <tspan dx="10" fontWeight="400" fill="var(--ink-soft)">
              {cell ? cellWords(cell, writer) : `over ${over}`}
            </tspan>
          </Heading>
          <Axes numbers={numbers} layout={layout} writer={writer} />
          <Within layout={layout} shown={shown} dim={lit !== null && lit !== numbers.factors.length} />
          <Means numbers={numbers} layout={layout} shown={shown} lit={lit} />
          <Standouts numbers={numbers} layout={layout} />
          {cell && (
            <path
              data-export="no"
              d={`M${cell.x} ${layout.box.top}V${layout.strip.bottom}`}
              stroke="var(--moss)"
              strokeDasharray="2 3"
            />
          )}
          <Families numbers={numbers} layout={layout} lit={lit} />
        </Sheet>
      </Stepped>
      {numbers.families.map((family, place) => (
        <button
          key={family.name}
          type="button"
          aria-label={familyWords(family)}
          aria-pressed={lit === place}
          onMouseEnter={() => setLit(place)}
          onMouseLeave={() => setLit(null)}
          onFocus={() => setLit(place)}
          onBlur={() => setLit(null)}
          className="no-print absolute rounded-md hover:outline hover:outline-hairline"
          style={{
            left: families.left - 6,
            top: families.top + families.apart * place - 16,
            width: families.right - families.left + 12,
            height: families.apart - 8,
          }}
        />
      ))}
    </div>
  );
}

const cellWords = ({ levels, n, mean, sd }: Cell, writer: ValueFormat) =>
  `${levels.join(", ")}: mean ${writer.computed(mean)} of ${counted(n, "value", "values")}${sd == null ? "" : `, sd ${writer.computed(sd)}`}`;

function Axes({ numbers, layout, writer }: { numbers: Numbers; layout: Layout; writer: ValueFormat }) {
  const { box, strip, y, tiers, groups, spread } = layout;
  const top = spread.domain()[1] ?? 0;
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {y.ticks(Math.max(3, Math.floor((box.bottom - box.top) / 60))).map((tick) => (
        <g key={tick}>
          <path d={`M${box.left} ${y(tick)}H${box.right}`} stroke="var(--hairline)" strokeOpacity="0.55" />
          <text x={box.left - 8} y={y(tick) + 4} textAnchor="end">
            {writer.bare(tick)}
          </text>
        </g>
      ))}
      <path d={`M${strip.left} ${strip.bottom}H${strip.right}`} stroke="var(--hairline)" />
      <text x={strip.left} y={strip.top - 4}>
        spread within {numbers.single ? `each ${numbers.factors.at(-2)?.name}` : "each combination"}, up to{" "}
        {writer.value(top)}
      </text>
      {((groups[0]?.length ?? 0) > DIVIDED_MOST ? [] : (groups[0] ?? [])).slice(1).map(({ group, left }) => (
        <path
          key={group.first}
          d={`M${left - layout.half * 0.8} ${box.top - 6}V${strip.bottom}`}
          stroke="var(--hairline)"
        />
      ))}
      {tiers.map(({ name, level, y, labels }) => (
        <g key={name}>
          <path d={`M6 ${y - 4}h8`} stroke={levelColour(level, numbers)} strokeWidth="3.4" />
          <text x={20} y={y} fontSize="11">
            {name.length > 9 ? `${name.slice(0, 8)}…` : name}
          </text>
          {labels.map(({ words, x }) => (
            <text key={x} x={x} y={y} textAnchor="middle" fill="var(--ink)" fontSize="11.5">
              {words}
            </text>
          ))}
        </g>
      ))}
    </g>
  );
}

/** Every value and its reach, and the spread of each cell below: what varies within. */
function Within({ layout, shown, dim }: { layout: Layout; shown: Record<string, boolean>; dim: boolean }) {
  const { cells, bands, y, spread, spreads, strip, half } = layout;
  return (
    <g data-family="within" opacity={dim ? 0.13 : 1} fill="var(--slate)">
      {(shown.values ?? true) && (
        <g>
          {bands.map(({ first, left, right, low, high }) => (
            <rect key={first} x={left} y={y(high)} width={right - left} height={y(low) - y(high)} fillOpacity="0.16" />
          ))}
          {cells.map(({ at, x, low, high, values }) => (
            <g key={at}>
              <path d={`M${x} ${y(low)}V${y(high)}`} stroke="var(--slate)" strokeOpacity="0.35" />
              {values.map((value, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: values have no name of their own
                <circle key={place} cx={x} cy={y(value)} r={Math.min(2.8, half)} fillOpacity="0.4" />
              ))}
            </g>
          ))}
        </g>
      )}
      {(shown.spread ?? true) && (
        <g fillOpacity="0.55">
          {bands.map(({ first, left, right, widest }) => (
            <rect key={first} x={left} y={spread(widest)} width={right - left} height={strip.bottom - spread(widest)} />
          ))}
          {spreads.map(({ key, x, wide, reach }) => (
            <rect key={key} x={x - wide / 2} y={spread(reach)} width={wide} height={strip.bottom - spread(reach)} />
          ))}
        </g>
      )}
    </g>
  );
}

/** Means of each level, linked within their parent: what each factor adds. */
function Means({
  numbers,
  layout,
  shown,
  lit,
}: Omit<Props, "name" | "size" | "figure" | "onOpen"> & { layout: Layout; lit: number | null }) {
  const { cells, bands, groups, y } = layout;
  const inner = numbers.factors.length - 1;
  const faint = (level: number) => (lit === null || lit === level ? 1 : 0.13);
  return (
    <g fill="none">
      <g data-family={numbers.factors[inner]?.name} opacity={faint(inner)}>
        {bands.map(({ first, left, right, low_mean, high_mean }) => (
          <rect
            key={first}
            x={left}
            y={y(high_mean)}
            width={right - left}
            height={Math.max(1, y(low_mean) - y(high_mean))}
            fill={levelColour(inner, numbers)}
            fillOpacity="0.35"
          />
        ))}
        {(shown.means ?? true) && (
          <>
            <path d={links(layout, inner).join("")} stroke={levelColour(inner, numbers)} strokeWidth="1.5" />
            {cells.map(({ at, x, mean }) => (
              <circle
                key={at}
                cx={x}
                cy={y(mean)}
                r={Math.max(1.3, Math.min(4, layout.half))}
                fill={levelColour(inner, numbers)}
              />
            ))}
          </>
        )}
      </g>
      {(shown.groups ?? true) &&
        groups.map((level, place) => (
          <g
            key={numbers.factors[place]?.name}
            data-family={numbers.factors[place]?.name}
            opacity={faint(place)}
            stroke={levelColour(place, numbers)}
          >
            <path d={links(layout, place).join("")} strokeWidth="1.3" strokeDasharray="5 4" />
            {level.map(({ group, left, right }) => (
              <path key={group.first} d={`M${left} ${y(group.mean)}H${right}`} strokeWidth={4 - place} />
            ))}
          </g>
        ))}
    </g>
  );
}

/** A bracket over each level that stands out. */
function Standouts({ numbers, layout: { box, x, half, cells, bands } }: { numbers: Numbers; layout: Layout }) {
  const [from, to] = [cells[0]?.at ?? bands[0]?.first ?? 0, cells.at(-1)?.at ?? bands.at(-1)?.last ?? 0];
  return (
    <g stroke="var(--clay)" strokeWidth="1.8" fill="none">
      {numbers.standouts
        .filter(({ first, last }) => first <= to && last >= from)
        .map(({ first, last, levels }) => (
          <path
            key={levels.join(" ")}
            d={`M${x(Math.max(first, from)) - half * 0.9} ${box.top - 2}v-7H${x(Math.min(last, to)) + half * 0.9}v7`}
          />
        ))}
    </g>
  );
}
