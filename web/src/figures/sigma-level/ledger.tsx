import { fixed, grouped } from "../../lib/format";
import { type Numbers, rate } from "./layout";

export function shortNumbers(numbers: Numbers): [string, string][] {
  const short: [string, string | null][] = [
    ["defects", numbers.defects == null ? null : grouped(numbers.defects)],
    ["units", numbers.units == null ? null : grouped(numbers.units)],
    ["chances", numbers.chances == null ? null : grouped(numbers.chances)],
    ["shift", String(numbers.shift)],
  ];
  return short.flatMap(([term, value]) => (value == null ? [] : [[term, value] as [string, string]]));
}

const percent = (share: number | null | undefined) => (share == null ? "–" : `${fixed(100 * share, 4)} %`);
const written = (value: number | null | undefined, decimals: number) => (value == null ? "–" : fixed(value, decimals));

/** Every number by name, with its interval where it has one. */
export function NumbersTable({ numbers }: { numbers: Numbers }) {
  const [low, high] = numbers.dpmo_ci95 ?? [];
  const [worst, best] = numbers.sigma_level_ci95 ?? [];
  const rows: [string, string, string][] = [
    ["defects per unit", written(numbers.dpu, 6), ""],
    ["defects per chance", written(numbers.dpo, 8), ""],
    [
      "in a million",
      numbers.dpmo == null ? "–" : rate(numbers.dpmo),
      low == null || high == null ? "" : `${rate(low)} to ${rate(high)}`,
    ],
    ["yield", percent(numbers.yield), ""],
    ["units without a defect", percent(numbers.first_time_yield), ""],
    ["rolled yield", percent(numbers.rolled_yield), ""],
    ["as if all steps were alike", percent(numbers.normalised_yield), ""],
    ["z, without the shift", written(numbers.z, 4), ""],
    [
      `sigma level, shift ${numbers.shift}`,
      written(numbers.sigma_level, 4),
      numbers.sigma_level_ci95 == null ? "" : `${written(worst, 2)} to ${written(best, 2)}`,
    ],
  ];
  return (
    <table className="text-right">
      <thead className="text-[13px] text-ink-soft">
        <tr>
          <th />
          <th className="pb-1 pl-6 font-medium">value</th>
          <th className="pb-1 pl-8 font-medium">95 % interval</th>
        </tr>
      </thead>
      <tbody>
        {rows
          .filter(([, value]) => value !== "–")
          .map(([term, value, interval]) => (
            <tr key={term} className="border-t border-hairline">
              <th scope="row" className="py-1 text-left font-medium">
                {term}
              </th>
              <td className="pl-6">{value}</td>
              <td className="pl-8">{interval}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

/** The steps, or the only count. */
export function StepsTable({ numbers }: { numbers: Numbers }) {
  if (numbers.steps.length === 0)
    return <p className="text-ink-soft">A measurement has no steps; its bell is drawn above.</p>;
  return (
    <table className="text-right">
      <thead className="text-[13px] text-ink-soft">
        <tr>
          {["step", "units", "defects", "a unit", "in a million chances", "yield", "rolled", "sigma level"].map(
            (head) => (
              <th key={head} className="pb-1 pr-7 font-medium first:text-left">
                {head}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {numbers.steps.map((step, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps may share a name, and their order is theirs
          <tr key={index} className="border-t border-hairline">
            <th scope="row" className="py-1 pr-7 text-left font-medium">
              {step.name || "all"}
            </th>
            <td className="pr-7">{grouped(step.units)}</td>
            <td className="pr-7">{grouped(step.defects)}</td>
            <td className="pr-7">{fixed(step.dpu, 4)}</td>
            <td className="pr-7">{rate(step.dpmo)}</td>
            <td className="pr-7">{percent(step.first_time_yield)}</td>
            <td className="pr-7">{percent(step.rolled_yield)}</td>
            <td className="pr-7">{written(step.sigma_level, 2)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
