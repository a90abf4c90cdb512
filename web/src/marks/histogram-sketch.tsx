import type { Schema } from "../api/client";

type Props = { bins: Schema["HistogramBin"][]; limits: { lsl?: number | null; usl?: number | null } };

const WIDTH = 140;
const HEIGHT = 42;

/** A small histogram of values with the specification limits as fences. */
export function HistogramSketch({ bins, limits }: Props) {
  const from = bins[0]?.from ?? 0;
  const to = bins.at(-1)?.to ?? 1;
  const fences = [limits.lsl, limits.usl].filter((value): value is number => value != null);
  const low = Math.min(from, ...fences);
  const high = Math.max(to, ...fences);
  const most = Math.max(1, ...bins.map((bin) => bin.count));
  const x = (value: number) => 3 + ((value - low) / (high - low || 1)) * (WIDTH - 6);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-full w-full"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {bins.map((bin) => {
        const tall = (bin.count / most) * (HEIGHT - 6);
        return (
          <rect
            key={bin.from}
            x={x(bin.from) + 0.4}
            width={Math.max(0.6, x(bin.to) - x(bin.from) - 0.8)}
            y={HEIGHT - 2 - tall}
            height={tall}
            fill="var(--slate)"
          />
        );
      })}
      <path d={`M0 ${HEIGHT - 1.5}H${WIDTH}`} stroke="var(--hairline)" />
      {fences.map((fence) => (
        <path key={fence} d={`M${x(fence)} 1V${HEIGHT - 1}`} stroke="var(--ink)" strokeWidth="2" />
      ))}
    </svg>
  );
}
