import { type RefObject, useMemo } from "react";
import { chance, counted, writerOf } from "../../lib/format";
import { spreadLabels } from "../../marks/panel-layout";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size } from "../../study/figure";
import { type Layout, type Numbers, placeGroups } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: Size;
  shown: Record<string, boolean>;
  figure: RefObject<SVGSVGElement | null>;
};

/** Each group a column of values with its mean and interval; the mean of all with its decision limits runs through. */
export function Columns({ numbers, name, size, shown, figure }: Props) {
  const layout = useMemo(() => placeGroups(numbers, size.width, size.height), [numbers, size.width, size.height]);
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const { box, y, columns, brackets, untold } = layout;
  const words = numbers.groups.map(({ label, mean }) => `${label} ${writer.computed(mean)}`).join(", ");
  const ticks = y.ticks(Math.max(3, Math.floor((box.bottom - box.top) / 70)));
  return (
    <Sheet figure={figure} size={size} label={`${name} by group, means: ${words}.`}>
      <Heading x={16} y={26}>
        {[name, writer.unit && `(${writer.unit})`].filter(Boolean).join(" ")}
        <tspan dx="10" fontWeight="400" fill="var(--ink-soft)">
          mean and 95 % interval over the values
        </tspan>
      </Heading>
      <g fontSize="12" fill="var(--ink-soft)" textAnchor="end">
        {ticks.map((tick) => (
          <g key={tick}>
            <path d={`M${box.left} ${y(tick)}H${box.right}`} stroke="var(--hairline)" strokeOpacity="0.6" />
            <text x={box.left - 8} y={y(tick) + 4}>
              {writer.bare(tick)}
            </text>
          </g>
        ))}
      </g>
      <Through numbers={numbers} layout={layout} words={writer.computed} limits={shown.limits ?? true} />
      {columns.map(({ group, x, half, dots }) => {
        const [low, high] = group.ci95 ?? [group.mean, group.mean];
        const [least = 0, lower = 0, middle = 0, upper = 0, most = 0] = group.five;
        const outside = numbers.anom?.find(({ label }) => label === group.label)?.outside;
        return (
          <g key={group.label}>
            {dots.length > 0 ? (
              dots.map((dot, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: values have no name of their own
                <circle key={place} cx={dot.x} cy={dot.y} r="2.6" fill="var(--slate)" fillOpacity="0.35" />
              ))
            ) : (
              <g stroke="var(--slate-mid)" fill="var(--slate-soft)">
                <path d={`M${x} ${y(least)}V${y(most)}`} />
                <rect
                  x={x - half * 0.8}
                  y={y(upper)}
                  width={half * 1.6}
                  height={Math.max(1, y(lower) - y(upper))}
                  fillOpacity="0.5"
                />
                <path d={`M${x - half * 0.8} ${y(middle)}h${half * 1.6}`} strokeWidth="2" />
              </g>
            )}
            <path
              d={`M${x} ${y(low ?? group.mean)}V${y(high ?? group.mean)}`}
              stroke={outside ? "var(--plum)" : "var(--ink)"}
              strokeWidth="3.4"
              strokeLinecap="round"
            />
            <circle cx={x} cy={y(group.mean)} r="6" fill={outside ? "var(--plum)" : "var(--ink)"} />
            <text x={x} y={box.bottom + 20} textAnchor="middle" fontSize="12.5" fill="var(--ink)">
              {cut(group.label, (box.right - box.left) / columns.length)}
            </text>
            <text x={x} y={box.bottom + 36} textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
              {columns.length <= 16 ? counted(group.n, "value", "values") : ""}
            </text>
          </g>
        );
      })}
      {(shown.pairs ?? true) &&
        brackets.map(({ from, to, y: at, p }) => (
          <g key={`${from} ${to}`}>
            <path d={`M${from} ${at + 6}v-6H${to}v6`} fill="none" stroke="var(--plum)" strokeWidth="1.6" />
            <text x={box.right + 8} y={at + 4} fontSize="11.5" fill="var(--plum)">
              {chance(p)}
            </text>
          </g>
        ))}
      {untold > 0 && (
        <text x={size.width - 24} y={26} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
          {counted(untold, "more pair differs", "more pairs differ")}
        </text>
      )}
    </Sheet>
  );
}

const cut = (label: string, wide: number) => {
  const letters = Math.max(2, Math.floor(wide / 7));
  return label.length > letters ? `${label.slice(0, letters - 1)}…` : label;
};

type ThroughProps = { numbers: Numbers; layout: Layout; words: (value: number) => string; limits: boolean };

/** What runs through all columns: the mean of all with its decision limits, or the value that one mean is held against. */
function Through({ numbers, layout: { box, y }, words, limits }: ThroughProps) {
  const [first] = numbers.anom ?? [];
  const at = numbers.against ?? numbers.mean;
  const band = limits && first && numbers.groups.length > 2 ? first : undefined;
  const labels = band
    ? [
        { words: `UDL ${words(band.ucl)}`, y: y(band.ucl) },
        { words: words(at), y: y(at) },
        { words: `LDL ${words(band.lcl)}`, y: y(band.lcl) },
      ]
    : [{ words: words(at), y: y(at) }];
  const places = spreadLabels(
    labels.map(({ y }) => y + 4),
    14,
    box,
  );
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {labels.map(({ words }, place) => (
        <text key={words} x={box.right + 8} y={places[place]}>
          {words}
        </text>
      ))}
      {band && (
        <>
          <rect
            x={box.left}
            y={y(band.ucl)}
            width={box.right - box.left}
            height={Math.max(1, y(band.lcl) - y(band.ucl))}
            fill="var(--moss)"
            fillOpacity="0.09"
          />
          <path
            d={`M${box.left} ${y(band.ucl)}H${box.right}M${box.left} ${y(band.lcl)}H${box.right}`}
            stroke="var(--ochre)"
            strokeWidth="1.6"
            strokeDasharray="6 4"
          />
        </>
      )}
      <path
        d={`M${box.left} ${y(at)}H${box.right}`}
        stroke={numbers.against == null ? "var(--moss)" : "var(--ink)"}
        strokeWidth="1.8"
      />
    </g>
  );
}
