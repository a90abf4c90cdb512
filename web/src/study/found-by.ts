import type { Schema } from "../api/client";

type Card = Pick<Schema["MethodCard"], "question" | "use_when" | "found_by">;

const plain = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, "");

/** The words of the trade that a person may have meant: those that hold what is typed, written with or without dashes. */
export function wordsFound(card: Card, typed: string): string[] {
  const sought = plain(typed);
  return sought === "" ? [] : card.found_by.filter((word) => plain(word).includes(sought));
}

/** Whether a question answers to what is typed: by a word of the trade, or by its own words. */
export function isFound(card: Card, typed: string): boolean {
  const own = `${card.question} ${card.use_when}`.toLowerCase();
  return own.includes(typed.trim().toLowerCase()) || wordsFound(card, typed).length > 0;
}
