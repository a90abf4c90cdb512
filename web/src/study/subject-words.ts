import type { Study } from "../api/queries";

/** What an answer is about, for titles: "flux", "x1 to x5". */
export function subjectWords({ subject }: Pick<Study, "subject">): string {
  const names = subject?.columns ?? [];
  return names.length > 1 ? `${names[0]} to ${names.at(-1)}` : (names[0] ?? "");
}
