import type { RefObject } from "react";
import { chance, fixed, grouped } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { ShareAxis } from "./axis";
import { placeTwo, sizeOf, type Two, type TwoLayout, writerFor } from "./layout";

type Props = {
  two: Two;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
};

/** Two number lines on one axis, and the difference or the ratio on its own. */
export function TwoSamples({ two, size, figure }: Props) {
  const layout = placeTwo(two, size.width, size.height);
  const write = writerFor(
    two.counting_pieces,
    two.samples.flatMap(({ ci95 }) => ci95),
  );
  const { x, sides, foot } = layout;
  const what = two.counting_pieces ? "Share" : "Rate";
  const label = sides.map(({ one }) => `${one.label} ${write(one.estimate)}`).join(", ");
  return (
    <Sheet figure={figure} size={size} label={`Two samples: ${label}.`}>
      <Heading x={16} y={28}>
        {what} of each sample with its 95 % interval
      </Heading>
      {sides.map(({ one, y }, place) => {
        const [low = 0, high = 0] = one.ci95;
        return (
          <g key={one.label} fontSize="12.5">
            <text x="16" y={y - 4} fontWeight="600" fill="var(--ink)">
              {one.label.length > 18 ? `${one.label.slice(0, 17)}…` : one.label}
            </text>
            <text x="16" y={y + 13} fill="var(--ink-soft)">
              {grouped(one.x)} {two.counting_pieces ? "of" : "in"} {grouped(sizeOf(one))}
            </text>
            <path d={`M${x(low)} ${y}H${x(high)}`} stroke="var(--slate-mid)" strokeWidth="9" strokeLinecap="round" />
            {place === 0 ? (
              <circle cx={x(one.estimate)} cy={y} r="7" fill="var(--slate)" />
            ) : (
              <rect x={x(one.estimate) - 6.5} y={y - 6.5} width="13" height="13" fill="var(--slate)" />
            )}
            <text x={x(one.estimate)} y={y - 15} textAnchor="middle" fontWeight="600" fill="var(--ink)">
              {write(one.estimate)}
            </text>
          </g>
        );
      })}
      <ShareAxis x={x} foot={foot} percent={two.counting_pieces} />
      <Apart two={two} layout={layout} />
    </Sheet>
  );
}

/** How far apart they are, against where they would be alike. */
function Apart({ two, layout }: { two: Two; layout: TwoLayout }) {
  const { x, y, foot, low, at, high, same } = layout.apart;
  const end = high === null ? (x.range()[1] ?? 0) : x(high);
  const words = two.counting_pieces
    ? `${at !== null && at > 0 ? "+" : ""}${fixed(100 * (at ?? 0), 1)} points`
    : at === null
      ? "no ratio"
      : `${fixed(at, 2)} times`;
  return (
    <g fontSize="12.5">
      <Heading x={16} y={y - 34}>
        {two.counting_pieces ? "First less second" : "First over second"}
        <tspan dx="8" fontWeight="400" fill="var(--plum)">
          {chance(two.p)}
        </tspan>
      </Heading>
      <path d={`M${x(same)} ${y - 22}V${foot}`} stroke="var(--ink)" strokeWidth="2" />
      <text x={x(same) + 6} y={y - 14} fontSize="12" fontWeight="600" fill="var(--ink)">
        alike
      </text>
      <path
        d={`M${x(low)} ${y}H${end}`}
        stroke="var(--ochre)"
        strokeWidth="9"
        strokeLinecap="round"
        strokeOpacity="0.65"
      />
      {at !== null && <circle cx={x(at)} cy={y} r="6.5" fill="var(--ochre)" />}
      <text x={at === null ? x(same) : x(at)} y={y + 24} textAnchor="middle" fontWeight="600" fill="var(--ink)">
        {words}
      </text>
      <ShareAxis x={x} foot={foot} percent={two.counting_pieces} />
    </g>
  );
}
