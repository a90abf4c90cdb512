import { counted, fixed, shareWords } from "../../lib/format";
import type { Numbers } from "./layout";

type Entry = { term: string; value: string; under: string; poor: boolean };

const interval = (ends: number[] | null | undefined) =>
  ends == null ? "" : `${fixed(ends[0] ?? 0, 2)} to ${fixed(ends[1] ?? 0, 2)}`;

/** The indices with their intervals, and what lies out, under the figure. */
export function IndexStrip({
  numbers,
  size,
}: {
  numbers: Numbers;
  left: number;
  size: { width: number; height: number };
}) {
  const index = (term: string, value: number | null | undefined, ends?: number[] | null): Entry[] =>
    value == null ? [] : [{ term, value: fixed(value, 2), under: interval(ends), poor: value < 1 }];
  const seen = numbers.observed.total;
  const expected = numbers.expected_overall.total;
  const entries: Entry[] = [
    ...index("Cp", numbers.cp, numbers.cp_ci95),
    ...index("Cpk", numbers.cpk, numbers.cpk_ci95),
    ...index("Pp", numbers.pp, numbers.pp_ci95),
    ...index("Ppk", numbers.ppk, numbers.ppk_ci95),
    ...(expected == null
      ? []
      : [{ term: "out, expected", value: shareWords(expected), under: "long-term", poor: false }]),
    ...(seen == null
      ? []
      : [
          {
            term: "out, seen",
            value: `${Math.round(seen * numbers.n)} of ${numbers.n.toLocaleString("en-US")}`,
            under: seen === 0 ? "" : shareWords(seen),
            poor: false,
          },
        ]),
  ];
  const left = 24;
  const wide = (size.width - 2 * left) / Math.max(5, entries.length);
  const top = size.height - 64;
  if (entries.length === 0)
    return (
      <text x={left} y={top + 26} fontSize="13" fill="var(--ink-soft)">
        {counted(numbers.n, "value", "values")}; no index without limits and spread.
      </text>
    );
  return (
    <g>
      <path d={`M${left} ${top - 6}H${size.width - left}`} stroke="var(--hairline)" />
      {entries.map(({ term, value, under, poor }, place) => (
        <g key={term} transform={`translate(${left + place * wide},${top})`}>
          <text y="13" fontSize="12.5" fill="var(--ink-soft)">
            {term}
          </text>
          <text y="34" fontSize="17" fontWeight="650" fill={poor ? "var(--clay)" : "var(--ink)"}>
            {value}
          </text>
          <text y="51" fontSize="12" fill="var(--ink-soft)">
            {under}
          </text>
        </g>
      ))}
    </g>
  );
}
