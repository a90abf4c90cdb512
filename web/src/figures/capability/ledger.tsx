import { fixed, grouped, type Writer, writerOf } from "../../lib/format";
import { shareWords } from "./index-strip";
import type { Numbers } from "./layout";

/** The few numbers that are always in sight. */
export function shortNumbers(numbers: Numbers): [string, string][] {
  const write = writerOf(numbers.writer);
  const short: [string, number | null | undefined][] = [
    ["mean", numbers.mean],
    ["sd short", numbers.sd_within],
    ["sd long", numbers.sd_overall],
  ];
  const known = short.flatMap(([term, value]) =>
    value == null ? [] : [[term, write.computed(value)] as [string, string]],
  );
  return [...known, ["values", grouped(numbers.n)]];
}

const two = (value: number | null | undefined) => (value == null ? "–" : fixed(value, 2));
const ends = (value: number[] | null | undefined) =>
  value == null ? "" : `${fixed(value[0] ?? 0, 2)} to ${fixed(value[1] ?? 0, 2)}`;
const share = (value: number | null | undefined) => (value == null ? "–" : shareWords(value));

/** Short-term beside long-term, seen beside expected, and where most values lie. */
export function NumbersTable({ numbers }: { numbers: Numbers }) {
  const write = writerOf(numbers.writer);
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-5">
      <Indices numbers={numbers} write={write} />
      <div className="flex flex-col gap-5">
        <Out numbers={numbers} />
        <Tolerance numbers={numbers} write={write} />
      </div>
      <Shape numbers={numbers} write={write} />
    </div>
  );
}

const HEAD = "pb-1 pr-6 text-[13px] font-medium text-ink-soft";
const TERM = "py-1 pr-6 text-left font-medium whitespace-nowrap";

function Indices({ numbers, write }: { numbers: Numbers; write: Writer }) {
  const written = (value: number | null | undefined) => (value == null ? "–" : write.computed(value));
  const rows: [string, string, string][] = [
    ["sd", written(numbers.sd_within), written(numbers.sd_overall)],
    ["both limits (Cp, Pp)", two(numbers.cp), two(numbers.pp)],
    ["95 % interval", ends(numbers.cp_ci95), ends(numbers.pp_ci95)],
    ["lower side", two(numbers.cpl), two(numbers.ppl)],
    ["upper side", two(numbers.cpu), two(numbers.ppu)],
    ["worse side (Cpk, Ppk)", two(numbers.cpk), two(numbers.ppk)],
    ["95 % interval ", ends(numbers.cpk_ci95), ends(numbers.ppk_ci95)],
    ["about the target (Cpm)", "", two(numbers.cpm)],
    ["Z bench", two(numbers.z_bench_within), two(numbers.z_bench_overall)],
  ];
  return (
    <table className="text-right">
      <thead>
        <tr>
          <th className={`${HEAD} text-left`}>index</th>
          <th className={HEAD}>short-term</th>
          <th className={HEAD}>long-term</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([term, short, long]) => (
          <tr key={term} className="border-t border-hairline">
            <th scope="row" className={TERM}>
              {term}
            </th>
            <td className="pr-6">{short}</td>
            <td className="pr-6">{long}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Out({ numbers }: { numbers: Numbers }) {
  const { observed, expected_within, expected_overall } = numbers;
  const rows = [
    ["below the lower limit", observed.below, expected_within.below, expected_overall.below],
    ["above the upper limit", observed.above, expected_within.above, expected_overall.above],
    ["both", observed.total, expected_within.total, expected_overall.total],
  ] as const;
  return (
    <table className="self-start text-right">
      <thead>
        <tr>
          <th className={`${HEAD} text-left`}>out</th>
          {["seen", "expected short-term", "expected long-term"].map((head) => (
            <th key={head} className={HEAD}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([term, ...values]) => (
          <tr key={term} className="border-t border-hairline">
            <th scope="row" className={TERM}>
              {term}
            </th>
            {values.map((value, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: three columns that never change
              <td key={place} className="pr-6">
                {share(value)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Shape({ numbers, write }: { numbers: Numbers; write: Writer }) {
  const { transform, fit } = numbers;
  const chance = (p: number | null | undefined) => (p == null ? "–" : p < 0.001 ? "below 0.001" : fixed(p, 3));
  const parameters = Object.entries(fit?.parameters ?? {}).map(([name, value]): [string, string] => [
    name,
    String(Number(Number(value).toPrecision(6))),
  ]);
  const rows: [string, string][] = [
    ["shape", numbers.shape],
    ["p of this shape", chance(numbers.shape_p)],
    ["p of a normal", chance(numbers.ad_p)],
    ["A², adjusted, of a normal", numbers.ad_star == null ? "–" : fixed(numbers.ad_star, 3)],
    ["skewness", numbers.skewness == null ? "–" : fixed(numbers.skewness, 2)],
    ...(transform?.kind === "box-cox" ? ([["power λ", fixed(transform.lambda, 4)]] as [string, string][]) : []),
    ...(transform?.kind === "johnson"
      ? ([
          ["system", transform.family ?? ""],
          ["γ, δ", `${fixed(transform.gamma ?? 0, 4)}, ${fixed(transform.delta ?? 0, 4)}`],
          ["ξ, λ", `${write.bareComputed(transform.xi ?? 0)}, ${write.bareComputed(transform.lambda)}`],
        ] as [string, string][])
      : []),
    ...parameters,
    ...(fit ? ([["AIC", fixed(fit.aic, 1)]] as [string, string][]) : []),
  ];
  return (
    <table className="self-start">
      <tbody>
        {rows.map(([term, value]) => (
          <tr key={term} className="border-t border-hairline first:border-0">
            <th scope="row" className={TERM}>
              {term}
            </th>
            <td className="text-right">{value}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Tolerance({ numbers, write }: { numbers: Numbers; write: Writer }) {
  if (numbers.tolerance.length === 0) return null;
  const side = ([low, high]: (number | null | undefined)[]) => {
    if (low == null && high == null) return "–";
    if (low == null) return `up to ${write.computed(high ?? 0)}`;
    if (high == null) return `from ${write.computed(low)}`;
    return `${write.bareComputed(low)} to ${write.computed(high)}`;
  };
  return (
    <table className="self-start text-right">
      <thead>
        <tr>
          <th className={`${HEAD} text-left`}>where they lie, 95 % sure</th>
          <th className={HEAD}>if the shape fits</th>
          <th className={HEAD}>whatever the shape</th>
          <th className={HEAD}>sure</th>
        </tr>
      </thead>
      <tbody>
        {numbers.tolerance.map((one) => (
          <tr key={one.share} className="border-t border-hairline">
            <th scope="row" className={TERM}>
              {fixed(100 * one.share, one.share > 0.995 ? 2 : 0)} % of all values
            </th>
            <td className="pr-6">{side(one.normal)}</td>
            <td className="pr-6">{side(one.any_shape)}</td>
            <td className={`pr-6 ${one.any_shape_confidence < 0.95 ? "text-ochre" : ""}`}>
              {fixed(100 * one.any_shape_confidence, 1)} %
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Every bar with its range and count, and what the shape expects there. */
export function BarsTable({ numbers }: { numbers: Numbers }) {
  const write = writerOf(numbers.writer);
  return (
    <table className="text-right">
      <thead>
        <tr>
          {["from", "to", "values", "share"].map((head) => (
            <th key={head} className={HEAD}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {numbers.bins.map((bin) => (
          <tr key={bin.from} className="border-t border-hairline">
            <td className="py-1 pr-8">{write.bareComputed(bin.from)}</td>
            <td className="pr-8">{write.bareComputed(bin.to)}</td>
            <td className="pr-8">{grouped(bin.count)}</td>
            <td className="pr-8">{fixed((100 * bin.count) / Math.max(1, numbers.n), 1)} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
