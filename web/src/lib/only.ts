import type { FilterStep } from "../api/queries";
import { counted } from "./format";

const short = (value: number) => String(value).replace("-", "−");

/** From one end to another, either of which may be open. */
function between<T>([from, to]: (T | null)[], write: (end: T) => string): string {
  if (from != null && to != null) return from === to ? write(from) : `${write(from)} to ${write(to)}`;
  if (from != null) return `from ${write(from)}`;
  return to != null ? `up to ${write(to)}` : "any";
}

/** A step that narrows rows, in words. */
export function onlyWords(step: FilterStep): string {
  if ("rows" in step) return step.from || "some rows";
  const { column } = step;
  if ("labels" in step)
    return `${column}: ${step.labels.length > 2 ? counted(step.labels.length, "label", "labels") : step.labels.join(" or ")}`;
  if ("between" in step) return `${column}: ${between(step.between, short)}`;
  if ("during" in step) return `${column}: ${between(step.during, (moment) => moment)}`;
  if ("contains" in step) return `${column} with “${step.contains}”`;
  if ("missing" in step) return `${column} ${step.missing ? "missing" : "not missing"}`;
  return `${column} ${step["beyond-limits"] ? "beyond its limits" : "within its limits"}`;
}
