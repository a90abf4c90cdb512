import type { Schema } from "../../api/client";
import type { Entry, Plan } from "../../api/floor";

export type Rules = NonNullable<Schema["StoredColumn"]["rules"]>;

/** One thing that is asked at a time. */
export type Step =
  | { kind: "identifier"; column: string; list: number | null; required: boolean }
  | { kind: "value"; piece: number; column: string }
  | { kind: "count"; column: string };

/** What was given so far of an entry. */
export type Draft = {
  said: Record<string, string>;
  /** The values of each piece, by column. */
  pieces: Record<string, number>[];
  counts: Record<string, number>;
  remark: string;
  confirmed: boolean;
};

const asksFor = ({ asked }: Plan["identifiers"][number]) => asked === "choice" || asked === "text";

/** What is asked, in its order: who and what first, then each piece, then what is counted. */
export function stepsOf(plan: Plan): Step[] {
  const identifiers = plan.identifiers
    .filter(asksFor)
    .map(({ column, list, required }): Step => ({ kind: "identifier", column, list: list ?? null, required }));
  const values = Array.from({ length: plan.measurements.length > 0 ? plan.pieces : 0 }, (_, piece) =>
    plan.measurements.map(({ column }): Step => ({ kind: "value", piece, column })),
  ).flat();
  const { inspected, defectives, defects } = plan.counts;
  const counted = [inspected, defectives, ...defects].filter((column): column is string => column != null);
  return [...identifiers, ...values, ...counted.map((column): Step => ({ kind: "count", column }))];
}

/** A new entry; what is remembered is kept from the one before. */
export function begun(plan: Plan, before?: Draft): Draft {
  const kept = plan.identifiers.filter((one) => asksFor(one) && one.remembered).map(({ column }) => column);
  const said = Object.fromEntries(
    kept.flatMap((column) => (before?.said[column] ? [[column, before.said[column]]] : [])),
  );
  const pieces = Array.from({ length: plan.measurements.length > 0 ? plan.pieces : 0 }, () => ({}));
  return { said: said as Record<string, string>, pieces, counts: {}, remark: "", confirmed: false };
}

/** What was given so far, as far as a plan still asks for it. */
export function carried(plan: Plan, draft: Draft): Draft {
  let next = { ...begun(plan), remark: draft.remark, confirmed: draft.confirmed };
  for (const step of stepsOf(plan)) {
    const value = givenFor(draft, step);
    if (value !== undefined) next = withValue(next, step, value);
  }
  return next;
}

/** What was given for a step. */
export function givenFor(draft: Draft, step: Step): string | number | undefined {
  if (step.kind === "identifier") return draft.said[step.column];
  if (step.kind === "count") return draft.counts[step.column];
  return draft.pieces[step.piece]?.[step.column];
}

export const isGiven = (draft: Draft, step: Step): boolean => givenFor(draft, step) !== undefined;

/** What is asked next; nothing when the entry is whole. */
export const nextOf = (plan: Plan, draft: Draft): Step | undefined =>
  stepsOf(plan).find((step) => !isGiven(draft, step));

export function withValue(draft: Draft, step: Step, value: string | number): Draft {
  if (step.kind === "identifier") return { ...draft, said: { ...draft.said, [step.column]: String(value) } };
  if (step.kind === "count") return { ...draft, counts: { ...draft.counts, [step.column]: Number(value) } };
  const pieces = draft.pieces.map((piece, at) =>
    at === step.piece ? { ...piece, [step.column]: Number(value) } : piece,
  );
  return { ...draft, pieces };
}

/** The draft without what was given last, and what that was; a remembered identifier stays. */
export function withoutLast(plan: Plan, draft: Draft): { draft: Draft; step: Step } | null {
  const given = stepsOf(plan).filter((step) => step.kind !== "identifier" && isGiven(draft, step));
  const step = given.at(-1);
  if (!step) return null;
  const without = (all: Record<string, number>) =>
    Object.fromEntries(Object.entries(all).filter(([name]) => name !== step.column));
  if (step.kind === "count") return { draft: { ...draft, counts: without(draft.counts) }, step };
  const pieces = draft.pieces.map((piece, at) => (step.kind === "value" && at === step.piece ? without(piece) : piece));
  return { draft: { ...draft, pieces, confirmed: false }, step };
}

/** Why a value cannot be one of its column; nothing when it can. */
export function impossible({ lower_bound, upper_bound }: Rules, value: number): string | undefined {
  if (lower_bound != null && value < lower_bound) return `It cannot be below ${lower_bound}.`;
  if (upper_bound != null && value > upper_bound) return `It cannot be above ${upper_bound}.`;
  return undefined;
}

/** Why a value of a column is not believed; nothing when it is. */
export function disbelief({ lowest, highest }: Rules, value: number): string | undefined {
  if (lowest != null && value < lowest) return `Below ${lowest} nothing is believed.`;
  if (highest != null && value > highest) return `Above ${highest} nothing is believed.`;
  return undefined;
}

const two = (value: number) => String(value).padStart(2, "0");

/** A moment as the clock on the wall shows it. */
export const wallTime = (at: Date): string =>
  `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())} ${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}`;

/** The entry that a draft becomes. */
export function entryOf(draft: Draft, key: string, at: Date): Entry {
  const said = Object.entries(draft.said).filter(([, words]) => words.trim() !== "");
  return {
    key,
    at: at.getTime(),
    time: wallTime(at),
    identifiers: Object.fromEntries(said),
    pieces: draft.pieces,
    counts: draft.counts,
    remark: draft.remark,
    confirmed: draft.confirmed,
  };
}

/** "Measure piece 5.", "Who?": what is asked, in words. */
export function asks(plan: Plan, step: Step): string {
  if (step.kind === "identifier") return `${step.column[0]?.toUpperCase()}${step.column.slice(1)}?`;
  if (step.kind === "count") return `How many: ${step.column}?`;
  const what = plan.measurements.length > 1 ? `${step.column} of ` : "";
  return plan.pieces > 1 ? `Measure ${what}piece ${step.piece + 1}.` : `Measure ${step.column}.`;
}
