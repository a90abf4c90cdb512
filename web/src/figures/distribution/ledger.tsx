import { fixed, grouped, type Writer, writerOf } from "../../lib/format";
import type { Group, Numbers } from "./layout";

/** The few numbers that are always in sight. */
export function shortNumbers(numbers: Numbers): [string, string][] {
  const write = writerOf(numbers.writer);
  const [only] = numbers.groups;
  if (numbers.groups.length > 1 || !only) return [["groups", grouped(numbers.groups.length)]];
  const short: [string, string | null][] = [
    ["mean", only.mean == null ? null : write.computed(only.mean)],
    ["sd", only.sd == null ? null : write.computed(only.sd)],
    ["median", only.median == null ? null : write.computed(only.median)],
    ["values", grouped(only.n)],
  ];
  return short.flatMap(([term, value]) => (value === null ? [] : [[term, value] as [string, string]]));
}

type Row = [string, (group: Group, write: Writer) => string];

const plain = (value: number | null | undefined, decimals = 3) => (value == null ? "–" : fixed(value, decimals));
const written = (value: number | null | undefined, write: Writer) => (value == null ? "–" : write.bareComputed(value));
const interval = (value: number[] | null | undefined, write: Writer) =>
  value == null ? "–" : `${write.bareComputed(value[0] ?? 0)} to ${write.bareComputed(value[1] ?? 0)}`;

const ROWS: Row[] = [
  ["values", (group) => grouped(group.n)],
  ["missing", (group) => grouped(group.missing)],
  ["mean", (group, write) => written(group.mean, write)],
  ["its 95 % interval", (group, write) => interval(group.mean_ci95, write)],
  ["sd", (group, write) => written(group.sd, write)],
  ["its 95 % interval ", (group, write) => interval(group.sd_ci95, write)],
  ["smallest", (group, write) => written(group.min, write)],
  ["lower quartile", (group, write) => written(group.q1, write)],
  ["median", (group, write) => written(group.median, write)],
  ["upper quartile", (group, write) => written(group.q3, write)],
  ["largest", (group, write) => written(group.max, write)],
  ["range", (group, write) => written(group.range, write)],
  ["skewness", (group) => plain(group.skewness)],
  ["excess kurtosis", (group) => plain(group.kurtosis)],
  ["A², adjusted", (group) => plain(group.ad_star)],
  ["p of a normal", (group) => (group.ad_p == null ? "–" : group.ad_p < 0.001 ? "below 0.001" : fixed(group.ad_p, 3))],
];

/** Descriptive numbers, one column for each group. */
export function NumbersTable({ numbers }: { numbers: Numbers }) {
  const write = writerOf(numbers.writer);
  return (
    <table className="text-right">
      <thead className="text-[13px] text-ink-soft">
        <tr>
          <th className="sticky left-0 bg-sheet pb-1 pr-5 text-left font-medium">{write.unit && `in ${write.unit}`}</th>
          {numbers.groups.map((group) => (
            <th key={group.label ?? "all"} className="min-w-24 whitespace-nowrap pb-1 pl-5 font-medium">
              {group.label ?? "all values"}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([term, cell]) => (
          <tr key={term} className="border-t border-hairline">
            <th scope="row" className="sticky left-0 whitespace-nowrap bg-sheet py-1 pr-5 text-left font-medium">
              {term}
            </th>
            {numbers.groups.map((group) => (
              <td key={group.label ?? "all"} className="whitespace-nowrap pl-5">
                {cell(group, write)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Every bar with its range and count. */
export function BarsTable({ numbers }: { numbers: Numbers }) {
  const write = writerOf(numbers.writer);
  return (
    <table className="text-right">
      <thead className="text-[13px] text-ink-soft">
        <tr>
          {["group", "from", "to", "values", "share"].map((head) => (
            <th key={head} className="pb-1 pr-8 font-medium first:text-left">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {numbers.groups.flatMap((group) =>
          group.bins.map((bin) => (
            <tr key={`${group.label} ${bin.from}`} className="border-t border-hairline">
              <td className="py-1 pr-8 text-left">{group.label ?? "all values"}</td>
              <td className="pr-8">{write.bareComputed(bin.from)}</td>
              <td className="pr-8">{write.bareComputed(bin.to)}</td>
              <td className="pr-8">{grouped(bin.count)}</td>
              <td className="pr-8">{fixed((100 * bin.count) / Math.max(1, group.n), 1)} %</td>
            </tr>
          )),
        )}
      </tbody>
    </table>
  );
}
