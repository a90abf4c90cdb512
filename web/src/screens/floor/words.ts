import type { Schema } from "../../api/client";
import type { Plan, Standing } from "../../api/floor";
import { counted, moment } from "../../lib/format";

type Due = Schema["Due"];

const clock = (at: number) => new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** "due 14:00, in 4 min", "due since 14:00", "late, due at 14:00"; "due in 12 pieces", "late by 6 pieces". */
export function dueWords({ at, left, late }: Due, now = Date.now()): string {
  if (at == null) {
    const pieces = left ?? 0;
    if (pieces > 0) return `due in ${counted(pieces, "piece", "pieces")}`;
    if (pieces === 0) return "due now";
    const over = counted(-pieces, "piece", "pieces");
    return late ? `late by ${over}` : `due since ${over}`;
  }
  if (late) return `late, due at ${clock(at)}`;
  const minutes = Math.round((at - now) / 60_000);
  if (minutes <= 0) return `due since ${clock(at)}`;
  return minutes < 90 ? `due ${clock(at)}, in ${minutes} min` : `due ${clock(at)}`;
}

export const missedWords = ({ at, missed, of }: Due): string =>
  missed === 0
    ? ""
    : `${missed} of ${at == null ? counted(of, "due entry", "due entries") : counted(of, "due time", "due times")} missed`;

/** How many stations are late. */
export const lateOf = (all: Standing[]): number => all.flatMap(({ due }) => due).filter((due) => due?.late).length;

/** What a plan collects: "lens thickness of 5 pieces, every 60 min". */
export function collects({ plan }: Standing["plan"]): string {
  const measured = plan.measurements.map(({ column }) => column).join(", ");
  const { inspected, defectives, defects } = plan.counts;
  const counts = [inspected, defectives, ...defects].filter((one): one is string => one != null).join(", ");
  const what = [measured && (plan.pieces > 1 ? `${measured} of ${plan.pieces} pieces` : measured), counts].filter(
    Boolean,
  );
  return [...what, plan.every ? everyWords(plan.every) : ""].filter(Boolean).join(", ");
}

export function everyWords({ minutes, pieces }: NonNullable<Plan["every"]>): string {
  if (pieces > 0) return pieces === 1 ? "every piece" : `every ${pieces} pieces`;
  if (minutes % 60 !== 0) return `every ${minutes} min`;
  return minutes === 60 ? "every hour" : `every ${minutes / 60} hours`;
}

/** Whether somebody was told: "told mara@… 2 times, last 14:05", "hook … could not be told: refused". */
export function toldWords({ address, times, tried_at, problem }: Schema["Told"]): string {
  if (problem != null) return `${address} could not be told at ${moment(tried_at)}: ${problem}`;
  return `${address} was told ${times > 1 ? `${times} times, last ` : ""}at ${moment(tried_at)}`;
}
