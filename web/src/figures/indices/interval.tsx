import type { Schema } from "../../api/client";

type IntervalProps = { row: Schema["IndicesRow"]; most: number; goal: number };

/** Ppk as a point on its interval, with the one asked for as a line. */
export function Interval({ row, most, goal }: IntervalProps) {
  const x = (value: number) => 4 + (92 * Math.max(0, Math.min(most, value))) / most;
  const [low, high] = row.ppk_ci95 ?? [row.ppk, row.ppk];
  return (
    <svg viewBox="0 0 100 22" width="100" height="22" aria-hidden className="shrink-0">
      <path d="M4 11H96" stroke="var(--hairline)" />
      <path d={`M${x(goal)} 2V20`} stroke="var(--moss)" strokeWidth="1.5" />
      <path d={`M${x(1)} 5V17`} stroke="var(--clay)" strokeWidth="1" />
      {row.ppk != null && (
        <>
          <path d={`M${x(low ?? row.ppk)} 11H${x(high ?? row.ppk)}`} stroke="var(--slate-mid)" strokeWidth="5" />
          <circle cx={x(row.ppk)} cy="11" r="4" fill="var(--slate)" />
        </>
      )}
    </svg>
  );
}
