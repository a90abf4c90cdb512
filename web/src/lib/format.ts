import type { Schema } from "../api/client";

type Kind = Schema["Kind"];

/** A number with fixed decimals and a true minus sign. */
export function fixed(value: number, decimals: number): string {
  const text = value.toFixed(Math.max(0, Math.min(decimals, 12)));
  return (Number(text) === 0 ? text.replace("-", "") : text).replace("-", "−");
}

/** 1234567 as 1,234,567. */
export const grouped = (count: number): string => count.toLocaleString("en-US");

/** A share in percent as people compare them: "14.7 %", "38 %". */
export const percent = (share: number): string => `${fixed(100 * share, Math.abs(100 * share) < 19.95 ? 1 : 0)} %`;

/** A chance as it is said: "p below 0.001", "p = 0.034". */
export const chance = (p: number): string => (p < 0.001 ? "p below 0.001" : `p = ${fixed(p, 3)}`);

export function counted(count: number, one: string, many: string): string {
  return count === 1 ? `1 ${one}` : `${grouped(count)} ${many}`;
}

/** Writes values of one kind: decimals, unit, and a factor such as 100 for percent. */
export function writer(
  decimals: number,
  unit: string | null | undefined,
  factor = 1,
  computedDecimals: number = decimals + 1,
) {
  const withUnit = (text: string) => (unit ? `${text} ${unit}` : text);
  const bare = (value: number) => fixed(factor * value, decimals);
  const bareComputed = (value: number) => fixed(factor * value, computedDecimals);
  return {
    decimals,
    computedDecimals,
    factor,
    unit: unit ?? "",
    value: (value: number) => withUnit(bare(value)),
    computed: (value: number) => withUnit(bareComputed(value)),
    bare,
    bareComputed,
    /** A difference, with its sign. */
    signed: (value: number) => {
      const text = bareComputed(value);
      return withUnit(value > 0 && Number(text) !== 0 ? `+${text}` : text);
    },
  };
}

export type ValueFormat = ReturnType<typeof writer>;

/** The writer that the core chose. */
export const writerOf = (chosen: Schema["ValueWriter"]): ValueFormat =>
  writer(chosen.decimals, chosen.unit, chosen.factor, chosen.computed_decimals);

/** How many decimals a number is written with as it is. */
export const decimalsOf = (value: number): number => String(value).split(".")[1]?.length ?? 0;

export const kindWords: Record<Kind, string> = {
  number: "number",
  "whole-number": "whole number",
  category: "category",
  "date-time": "date and time",
  text: "text",
};

export const isNumeric = (kind: Kind): boolean => kind === "number" || kind === "whole-number";

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** "2026-05-04 06:10" as "4 May 06:10"; the year is added when it is not needed to be short. */
export function shortTime(text: string, withYear = false): string {
  const parts = /^(\d{4})-(\d{2})-(\d{2}) (.+)$/.exec(text);
  if (!parts) return text;
  const [, year, month, day, clock] = parts;
  const date = `${Number(day)} ${MONTHS[Number(month) - 1] ?? month}${withYear ? ` ${year}` : ""}`;
  return clock === "00:00" ? date : `${date} ${clock}`;
}

/** Microseconds since 1970 as text that shortTime understands. */
export function timeText(micros: number): string {
  return new Date(micros / 1000).toISOString().slice(0, 16).replace("T", " ");
}

/** Milliseconds since 1970 as a clock time today, else a date, in the person's own zone. */
export function moment(millis: number): string {
  const then = new Date(millis);
  const clock = `${String(then.getHours()).padStart(2, "0")}:${String(then.getMinutes()).padStart(2, "0")}`;
  const today = new Date().toDateString() === then.toDateString();
  return today ? clock : `${then.getDate()} ${MONTHS[then.getMonth()]} ${clock}`;
}

/** What a person typed as a number; a comma counts as decimal sign. Empty is null, nonsense undefined. */
export function typedNumber(text: string): number | null | undefined {
  const plain = text.trim().replace("−", "-").replace(",", ".");
  if (plain === "") return null;
  const value = Number(plain);
  return Number.isFinite(value) ? value : undefined;
}

/** A share in percent, or in a million where percent would be all zeros. */
export function shareWords(share: number): string {
  if (share === 0) return "0";
  if (share < 1e-9) return "< 0.001 ppm";
  if (share < 1e-4) return `${fixed(share * 1e6, share < 1e-6 ? 3 : 1)} ppm`;
  return `${fixed(share * 100, share < 0.01 ? 2 : 1)} %`;
}

/** A number of a table; one too small for its decimals says so instead of reading as none. */
export function tableNumber(value: number, format: Schema["ValueWriter"] | null | undefined): string {
  if (!format) return String(value).replace("-", "−");
  const { decimals, factor, unit } = format;
  const shown = value * factor;
  if (shown === 0) return withUnit("0", unit);
  if (decimals === 0 && Math.abs(shown) < 1e15)
    return withUnit(Math.round(shown).toLocaleString("en-US").replace("-", "−"), unit);
  const least = 10 ** -decimals;
  if (shown !== 0 && Math.abs(shown) < least / 2)
    return withUnit(shown < 0 ? `above −${fixed(least, decimals)}` : `below ${fixed(least, decimals)}`, unit);
  return withUnit(Math.abs(shown) >= 1e15 ? shown.toPrecision(6) : fixed(shown, decimals), unit);
}

const withUnit = (text: string, unit: string) => (unit ? `${text} ${unit}` : text);
