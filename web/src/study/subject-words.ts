import type { Spec } from "../api/queries";
import { type Card, subjectOf } from "./statement/words";

/** What an answer is about, for titles: "flux", "x1 to x5". */
export function subjectWords(card: Card, spec: Spec): string {
  const names = subjectOf(card, spec);
  return names.length > 1 ? `${names[0]} to ${names.at(-1)}` : (names[0] ?? "");
}
