import { fixed } from "../../lib/format";
import type { Watched } from "./groups";

/** What changed about a characteristic since the day before. */
export type Since = "unsteady" | "steady" | "worse" | "better" | "more";

/** Ppk moves a little with every value; less than this is no news. */
const PPK_NEWS = 0.05;

export function sinceOf({ before, dial }: Watched): Since | null {
  if (!before || !dial) return null;
  if (before.steady !== dial.steady) return dial.steady ? "steady" : "unsteady";
  if (dial.signals > before.signals) return "more";
  if (before.ppk == null || dial.ppk == null || Math.abs(dial.ppk - before.ppk) < PPK_NEWS) return null;
  return dial.ppk < before.ppk ? "worse" : "better";
}

/** The same in words: "no longer steady", "2 more signals", "Ppk was 1.33". */
export function sinceWords(entry: Watched): string {
  const since = sinceOf(entry);
  const { before, dial } = entry;
  if (since === null || !before || !dial) return "";
  if (since === "unsteady") return "no longer steady";
  if (since === "steady") return "steady again";
  if (since === "more") {
    const more = dial.signals - before.signals;
    return more === 1 ? "1 more signal" : `${more} more signals`;
  }
  return `Ppk was ${fixed(before.ppk ?? 0, 2)}`;
}

/** The whole Wall: "Since 25 Nov: 2 no longer steady, 1 with more signals, 3 with lower Ppk." */
export function headline(entries: Watched[]): string | null {
  const day = entries.find(({ before }) => before)?.before?.day;
  if (!day) return null;
  const many = (wanted: Since) => entries.filter((entry) => sinceOf(entry) === wanted).length;
  const parts = (
    [
      ["unsteady", "no longer steady"],
      ["steady", "steady again"],
      ["more", "with more signals"],
      ["worse", "with a lower Ppk"],
      ["better", "with a higher Ppk"],
    ] as const
  ).flatMap(([since, words]) => (many(since) > 0 ? [`${many(since)} ${words}`] : []));
  const then = new Date(`${day}T12:00`);
  const date = then.toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
  return `Since ${date}: ${parts.length > 0 ? parts.join(", ") : "nothing has changed"}.`;
}
