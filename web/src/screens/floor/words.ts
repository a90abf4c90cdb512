import type { Schema } from "../../api/client";
import type { Standing } from "../../api/floor";
import { counted } from "../../lib/format";

type Due = Schema["Due"];

const clock = (at: number) => new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** "due 14:00, in 4 min", "due since 14:00", "late, due at 14:00". */
export function dueWords({ at, late }: Due, now = Date.now()): string {
  if (late) return `late, due at ${clock(at)}`;
  const minutes = Math.round((at - now) / 60_000);
  if (minutes <= 0) return `due since ${clock(at)}`;
  return minutes < 90 ? `due ${clock(at)}, in ${minutes} min` : `due ${clock(at)}`;
}

export const missedWords = ({ missed, of }: Due): string =>
  missed === 0 ? "" : `${missed} of ${counted(of, "due time", "due times")} missed`;

/** What a plan collects: "lens thickness of 5 pieces, every 60 min". */
export function collects({ plan }: Standing["plan"]): string {
  const measured = plan.measurements.map(({ column }) => column).join(", ");
  const { inspected, defectives, defects } = plan.counts;
  const counts = [inspected, defectives, ...defects].filter((one): one is string => one != null).join(", ");
  const what = [measured && (plan.pieces > 1 ? `${measured} of ${plan.pieces} pieces` : measured), counts].filter(
    Boolean,
  );
  return [...what, plan.every ? everyWords(plan.every.minutes) : ""].filter(Boolean).join(", ");
}

export const everyWords = (minutes: number): string =>
  minutes % 60 === 0 ? (minutes === 60 ? "every hour" : `every ${minutes / 60} hours`) : `every ${minutes} min`;
