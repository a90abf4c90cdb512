import { type RefObject, useMemo } from "react";
import { fixed, grouped } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { ShareAxis } from "./axis";
import { type ClaimLayout, type One, placeClaim, sizeOf, writerFor } from "./layout";

type Props = {
  numbers: One;
  name: string;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
};

/** The number line: the share with its interval, the claim as a fence, and under it every count the claim makes possible. */
export function Claim({ numbers, name, size, figure }: Props) {
  const layout = useMemo(() => placeClaim(numbers, size.width, size.height), [numbers, size.width, size.height]);
  const { x, interval, counts } = layout;
  const middle = (interval.top + interval.bottom) / 2;
  const [low = 0, high = 0] = numbers.ci95;
  const pieces = numbers.n != null;
  const write = writerFor(pieces, [...numbers.ci95, numbers.claim ?? 0]);
  return (
    <Sheet figure={figure} size={size} label={summary(numbers, name, write)}>
      <Heading x={interval.left} y={26}>
        {[`The ${pieces ? "share" : "rate"} and its 95 % interval`, name].filter(Boolean).join(", ")}
      </Heading>
      <path d={`M${x(low)} ${middle}H${x(high)}`} stroke="var(--slate-mid)" strokeWidth="9" strokeLinecap="round" />
      <circle cx={x(numbers.estimate)} cy={middle} r="7" fill="var(--slate)" />
      <text
        x={x(numbers.estimate)}
        y={middle - 16}
        fontSize="13"
        fontWeight="600"
        textAnchor="middle"
        fill="var(--ink)"
      >
        {write(numbers.estimate)}
      </text>
      <text x={x(low)} y={middle + 24} fontSize="12" textAnchor="middle" fill="var(--ink-soft)">
        {write(low)}
      </text>
      <text x={x(high)} y={middle + 24} fontSize="12" textAnchor="middle" fill="var(--ink-soft)">
        {write(high)}
      </text>
      {counts && <Counts numbers={numbers} layout={layout} />}
      {numbers.claim != null && <ClaimFence layout={layout} claim={numbers.claim} words={write(numbers.claim)} />}
      <ShareAxis x={x} foot={counts?.bottom ?? interval.bottom} percent={pieces} />
    </Sheet>
  );
}

/** Every count under the claim by its chance; those that add to p are shaded, the one seen is ringed. */
function Counts({ numbers, layout }: { numbers: One; layout: ClaimLayout }) {
  const { x, y, counts, step } = layout;
  if (!counts) return null;
  const wide = Math.max(1, Math.min(14, step * 0.7));
  const seen = numbers.outcomes.find(({ count }) => count === numbers.x);
  return (
    <g>
      <Heading x={counts.left} y={counts.top - 10}>
        Counts that the claim makes possible
        <tspan fontWeight="400" dx="8" fill="var(--plum)">
          {numbers.p == null
            ? ""
            : `as odd as the one seen: p ${numbers.p < 0.001 ? "below 0.001" : `= ${fixed(numbers.p, 3)}`}`}
        </tspan>
      </Heading>
      {numbers.outcomes.map(({ count, chance, in_tail }) => (
        <rect
          key={count}
          x={x(count / sizeOf(numbers)) - wide / 2}
          y={y(chance)}
          width={wide}
          height={Math.max(1, counts.bottom - y(chance))}
          fill={in_tail ? "var(--plum)" : "var(--slate-soft)"}
          fillOpacity={in_tail ? 0.75 : 1}
        >
          <title>{`${grouped(count)}: ${fixed(100 * chance, 2)} %${in_tail ? ", adds to p" : ""}`}</title>
        </rect>
      ))}
      {seen && (
        <circle
          cx={x(seen.count / sizeOf(numbers))}
          cy={Math.min(counts.bottom - 5, y(seen.chance))}
          r="8"
          fill="none"
          stroke="var(--plum)"
          strokeWidth="2.2"
        />
      )}
    </g>
  );
}

/** The claim as a fence through both parts. */
function ClaimFence({ layout, claim, words }: { layout: ClaimLayout; claim: number; words: string }) {
  const { x, interval, counts } = layout;
  const at = x(claim);
  const nearEnd = at > interval.right - 90;
  return (
    <g stroke="var(--ink)">
      {/* Interrupted where the title of the counts stands. */}
      <path
        d={`M${at} ${interval.top - 6}V${interval.bottom}${counts ? `M${at} ${counts.top - 2}V${counts.bottom}` : ""}`}
        strokeWidth="2"
      />
      <text
        x={at + (nearEnd ? -6 : 6)}
        y={interval.top + 4}
        stroke="none"
        fontSize="12"
        fontWeight="600"
        textAnchor={nearEnd ? "end" : "start"}
        fill="var(--ink)"
      >
        claim {words}
      </text>
    </g>
  );
}

function summary(numbers: One, name: string, write: (value: number) => string): string {
  const claim = numbers.claim == null ? "" : `, against a claim of ${write(numbers.claim)}`;
  const of = `${grouped(numbers.x)} ${numbers.n == null ? "in" : "of"} ${grouped(sizeOf(numbers))}`;
  return `${numbers.n == null ? "Rate" : "Share"}${name && ` of ${name}`}: ${of}, ${write(numbers.estimate)}${claim}.`;
}
