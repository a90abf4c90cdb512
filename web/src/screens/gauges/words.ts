import type { Gauge } from "../../api/queries";

/** "Depth gauge D-07". */
export const gaugeWords = ({ name, number }: Pick<Gauge, "name" | "number">) => `${name} ${number}`.trim();

type Tone = "calm" | "caution" | "alarm" | "unsure";

/** How the last study left it, or that there was none. */
export function standingOf(gauge: Gauge): { tone: Tone; words: string } {
  const last = gauge.records[0];
  return last ? { tone: last.tone as Tone, words: last.title } : { tone: "unsure", words: "Never studied" };
}

const DUE: Record<Gauge["due"], string> = {
  never: "",
  "not-asked": "no study asked for",
  later: "next study",
  soon: "due",
  overdue: "overdue since",
};

/** When its next study is due, in words. */
export const dueWords = ({ due, next }: Gauge) => [DUE[due], next].filter(Boolean).join(" ");

export const isLate = ({ due }: Gauge) => due === "overdue" || due === "soon";

/** Whether somebody has to do something about it. */
export const wantsCare = (gauge: Gauge) => isLate(gauge) || standingOf(gauge).tone === "alarm";
