import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schema } from "../../api/client";
import type { Numbers, OneScale } from "./layout";

type Props = { layout: OneScale; numbers: Numbers; lit: number | null; shown: Record<string, boolean> };

/** The histogram lying on its side, with the short-term and the long-term curve. */
export function Histogram({ layout, numbers, lit, shown }: Props) {
  const { histogram, y } = layout;
  const short = shown["short-term"] === false ? [] : numbers.short_term;
  const long = shown["long-term"] === false ? [] : numbers.long_term;
  const counts = [...numbers.bins, ...long, ...short].map((one) => one.count);
  const x = scaleLinear([0, Math.max(1, ...counts) * 1.04], [histogram.left, histogram.right]);
  const curve = (points: Schema["CurvePoint"][]) => {
    const [low = 0, high = 0] = y.domain();
    const inside = points.filter((point) => point.value >= low && point.value <= high);
    return (
      line<Schema["CurvePoint"]>()
        .x((point) => x(point.count))
        .y((point) => y(point.value))(inside) ?? ""
    );
  };
  const last = numbers.bins.length - 1;
  return (
    <g>
      <path d={`M${histogram.left} ${histogram.top}V${histogram.bottom}`} stroke="var(--hairline)" strokeWidth="1.5" />
      {numbers.bins.map((bin, index) => {
        const inside = lit !== null && lit >= bin.from && (lit < bin.to || (index === last && lit <= bin.to));
        const [top, bottom] = [y(bin.to), y(bin.from)];
        return (
          <rect
            key={bin.from}
            data-bar={index}
            data-lit={inside || undefined}
            x={histogram.left}
            width={x(bin.count) - histogram.left}
            y={top + (bottom - top > 3 ? 0.6 : 0)}
            height={Math.max(0.5, bottom - top - (bottom - top > 3 ? 1.2 : 0))}
            fill="var(--slate)"
            fillOpacity={inside ? 1 : 0.72}
          />
        );
      })}
      {shown["sigma lines"] && <SigmaLines layout={layout} numbers={numbers} />}
      {shown.mean !== false && numbers.mean != null && (
        <path d={`M${histogram.left} ${y(numbers.mean)}H${histogram.right}`} stroke="var(--moss)" strokeWidth="1.4" />
      )}
      <path d={curve(short)} fill="none" stroke="var(--ochre)" strokeWidth="1.9" />
      <path
        d={curve(long)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.9"
        strokeDasharray="1.5 4"
        strokeLinecap="round"
      />
      <g fontSize="12" fill="var(--ink-soft)">
        {short.length > 0 && (
          <>
            <path d={`M${histogram.left} ${histogram.bottom + 13}h20`} stroke="var(--ochre)" strokeWidth="1.9" />
            <text x={histogram.left + 25} y={histogram.bottom + 17}>
              short-term
            </text>
          </>
        )}
        {long.length > 0 && (
          <>
            <path
              d={`M${histogram.left + 96} ${histogram.bottom + 13}h20`}
              stroke="var(--ink)"
              strokeWidth="1.9"
              strokeDasharray="1.5 4"
              strokeLinecap="round"
            />
            <text x={histogram.left + 121} y={histogram.bottom + 17}>
              long-term
            </text>
          </>
        )}
      </g>
    </g>
  );
}

/** Where the shape has 1, 2 and 3 sds, as far as they are in sight. */
function SigmaLines({ layout: { histogram, y }, numbers }: Pick<Props, "layout" | "numbers">) {
  const [low = 0, high = 0] = y.domain();
  return (
    <g data-testid="sigma-lines" fontSize="12" fill="var(--ink-soft)" textAnchor="end">
      {numbers.sigma_lines
        .filter(({ value }) => value >= low && value <= high)
        .map(({ sds, value }) => (
          <g key={sds}>
            <path
              d={`M${histogram.left} ${y(value)}H${histogram.right}`}
              stroke="var(--ink-soft)"
              strokeWidth="0.9"
              strokeDasharray="5 4"
            />
            <text x={histogram.right} y={y(value) - 4}>
              {sds > 0 ? "+" : "−"}
              {Math.abs(sds)} sd
            </text>
          </g>
        ))}
    </g>
  );
}
