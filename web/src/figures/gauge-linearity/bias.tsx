import { type RefObject, useMemo } from "react";
import { counted, writerOf } from "../../lib/format";
import { Axis } from "../../marks/panel-marks";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size } from "../../study/figure";
import { type Layout, type Numbers, placeBias } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  /** Whether single readings show. */
  single: boolean;
};

/** Bias over the known value: every reading, each piece's mean with its interval, and the fit in its band about no bias. */
export function Bias({ numbers, name, size, figure, single }: Props) {
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const along = useMemo(() => writerOf(numbers.reference_writer), [numbers.reference_writer]);
  const layout = placeBias(numbers, size.width, size.height);
  const { box, y } = layout;
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Bias of ${name} over ${counted(numbers.parts.length, "piece", "pieces")} of known value, from ${along.value(numbers.parts[0]?.reference ?? 0)} on.`}
    >
      <Heading x={box.left} y={28}>
        Reading less known value{writer.unit && ` (${writer.unit})`}
      </Heading>
      <Band numbers={numbers} layout={layout} />
      <Axis layout={{ box, y }} writer={writer} />
      <path d={`M${box.left} ${y(0)}H${box.right}`} stroke="var(--ink)" strokeWidth="1.8" />
      <text x={box.right - 4} y={y(0) - 6} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
        no bias
      </text>
      <Pieces numbers={numbers} layout={layout} single={single} />
      <Names numbers={numbers} layout={layout} write={along.bare} />
      <text
        x={(box.left + box.right) / 2}
        y={box.bottom + 62}
        textAnchor="middle"
        fontSize="12.5"
        fill="var(--ink-soft)"
      >
        known value{along.unit && ` (${along.unit})`}
      </text>
    </Sheet>
  );
}

function Band({ numbers: { band }, layout: { x, y } }: { numbers: Numbers; layout: Layout }) {
  const line = (of: (point: (typeof band)[number]) => number | null | undefined, points = band) =>
    points.flatMap((point) => {
      const value = of(point);
      return value == null ? [] : [`${x(point.reference)} ${y(value)}`];
    });
  const [up, down] = [line(({ high }) => high), line(({ low }) => low, [...band].reverse())];
  return (
    <g>
      {up.length > 0 && <path d={`M${[...up, ...down].join("L")}Z`} fill="var(--ochre)" fillOpacity="0.16" />}
      {band.length > 0 && (
        <path d={`M${line(({ fit }) => fit).join("L")}`} fill="none" stroke="var(--ochre)" strokeWidth="2" />
      )}
    </g>
  );
}

/** Room for the interval of a piece beside its readings. */
const BESIDE = 12;

function Pieces({ numbers, layout: { x, y }, single }: { numbers: Numbers; layout: Layout; single: boolean }) {
  return (
    <g data-testid="pieces">
      {numbers.parts.map(({ label, reference, bias, bias_ci95: interval, biases, p }) => {
        const off = p != null && p < 0.05 / numbers.parts.length;
        const colour = off ? "var(--plum)" : "var(--moss)";
        const at = x(reference) + (single ? BESIDE : 0);
        return (
          <g key={label}>
            {single &&
              biases.map((value, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: readings of a piece have no other name
                <circle key={place} cx={x(reference)} cy={y(value)} r="3" fill="var(--slate)" fillOpacity="0.55" />
              ))}
            {interval && (
              <path
                d={`M${at} ${y(interval[0] ?? bias)}V${y(interval[1] ?? bias)}M${at - 5} ${y(interval[0] ?? bias)}h10M${at - 5} ${y(interval[1] ?? bias)}h10`}
                stroke={colour}
                strokeWidth="2"
              />
            )}
            <path d={`M${at} ${y(bias) - 5}l5 5-5 5-5-5z`} fill={colour} />
          </g>
        );
      })}
    </g>
  );
}

/** Names and known values of the pieces, as many as have room. */
function Names({
  numbers,
  layout: { x, box },
  write,
}: {
  numbers: Numbers;
  layout: Layout;
  write: (n: number) => string;
}) {
  let free = Number.NEGATIVE_INFINITY;
  return (
    <g fontSize="12" textAnchor="middle">
      {numbers.parts.map(({ label, reference }) => {
        const at = x(reference);
        if (at < free) return null;
        free = at + 64;
        return (
          <g key={label}>
            <path d={`M${at} ${box.bottom}v5`} stroke="var(--hairline)" />
            <text x={at} y={box.bottom + 20} fill="var(--ink)">
              {write(reference)}
            </text>
            <text x={at} y={box.bottom + 37} fill="var(--ink-soft)">
              {label.length > 9 ? `${label.slice(0, 8)}…` : label}
            </text>
          </g>
        );
      })}
    </g>
  );
}
