import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";

export type Card = Schema["MethodCard"];
export type Slot = Schema["Slot"];
export type Statement = Schema["Statement"];
export type SlotState = Schema["SlotState"];
export type ChoiceSlot = Extract<Slot, { kind: "choice" }>;
export type ChecklistSlot = Extract<Slot, { kind: "checklist" }>;
export type ColumnSlot = Extract<Slot, { kind: "column" }>;
export type SwitchSlot = Extract<Slot, { kind: "switch" }>;
export type NumberSlot = Extract<Slot, { kind: "number" }>;
export type LabelSlot = Extract<Slot, { kind: "label" }>;
export type PerLabelSlot = Extract<Slot, { kind: "per-label" }>;
export type PerPointSlot = Extract<Slot, { kind: "per-point" }>;
export type TypedSlot = Extract<Slot, { kind: "typed" }>;
export type CountsSlot = Extract<Slot, { kind: "counts" }>;
export type LeftOutSlot = Extract<Slot, { kind: "left-out" }>;
export type RowsSlot = Extract<Slot, { kind: "rows" }>;
export type RenamesSlot = Extract<Slot, { kind: "renames" }>;
export type Cut = { first: number; name?: string };

/** A choice as it is set: which one, and its fields. */
export type Chosen = { choice: Schema["Choice"]; fields: Record<string, string | number> };

/** What is set of a choice; the core says which one holds. */
export function chosen(slot: ChoiceSlot, spec: Spec, holds: string | null | undefined): Chosen {
  const choice = slot.choices.find(({ value }) => value === holds) ?? slot.choices[0];
  if (!choice) throw new Error(`The slot ${slot.name} has no choice.`);
  const given = spec.options?.[slot.name];
  const all = (typeof given === "object" && given !== null ? given : {}) as Record<string, unknown>;
  const fields = choice.fields.flatMap(({ name }) => {
    const value = all[name];
    return typeof value === "number" || typeof value === "string" ? [[name, value] as const] : [];
  });
  return { choice, fields: Object.fromEntries(fields) };
}

/** The items that are on, with their lengths where one is set. */
export function checked(slot: ChecklistSlot, spec: Spec): Map<string, number | undefined> {
  const given = spec.options?.[slot.name];
  if (!Array.isArray(given))
    return new Map(slot.items.filter((item) => item.default_on).map((item) => [item.value, undefined]));
  const offered = given.filter((entry) => slot.items.some((item) => item.value === entry[slot.tag]));
  return new Map(offered.map((entry) => [String(entry[slot.tag]), entry.length as number | undefined]));
}

/** Whether a switch is on. */
export const isOn = (slot: SwitchSlot, spec: Spec): boolean => {
  const given = spec.options?.[slot.name];
  return typeof given === "boolean" ? given : slot.usual;
};

export const cutsOf = (spec: Spec): Cut[] => (Array.isArray(spec.options?.cuts) ? (spec.options.cuts as Cut[]) : []);

/** Names that are counted as another. */
export const renamesOf = (slot: RenamesSlot, spec: Spec): Record<string, string> =>
  (spec.options?.[slot.name] ?? {}) as Record<string, string>;

/** Stretches of rows by their ids. */
export const rowsOf = (slot: RowsSlot, spec: Spec): [number, number][] =>
  (spec.options?.[slot.name] ?? []) as [number, number][];

/** Rows that are left out, each stretch of ids with its reason. */
export type LeftOut = { rows: [number, number][]; why: string };

export const leftOutOf = (slot: Pick<LeftOutSlot, "name">, spec: Spec): LeftOut[] =>
  (spec.options?.[slot.name] ?? []) as LeftOut[];

/** Counts tabled in place. */
export type CountTable = { rows: string[]; columns: string[]; counts: number[][] };

export const countsOf = (slot: CountsSlot, spec: Spec): CountTable | undefined =>
  (spec.options?.[slot.name] ?? undefined) as CountTable | undefined;

/** The columns of a role, none when it is empty. */
export function columnsOf(spec: Spec, role: string): string[] {
  const given = spec.roles?.[role];
  return given === undefined ? [] : typeof given === "string" ? [given] : given;
}

/** The columns that pieces of the options are taken from. */
export const linkedColumns = (spec: Spec): string[] =>
  Object.values(spec.options ?? {}).flatMap((list) =>
    Array.isArray(list) ? list.flatMap((piece) => (typeof piece?.column === "string" ? [piece.column] : [])) : [],
  );

export type BuiltSlot = Extract<Slot, { kind: "built" }>;

/** The statement as plain words, for captions and exports. */
export const statementWords = ({ parts }: Statement): string => parts.map(({ text }) => text).join("");

/** A slot of a card with what stands in it. */
export type StatedSlot = { slot: Slot; state: SlotState };

/** The slots that show, in the order of the card. */
export const statedSlots = (card: Card, { slots }: Statement): StatedSlot[] =>
  slots.flatMap((state) => {
    const slot = card.slots[state.slot];
    return slot ? [{ slot, state }] : [];
  });

/** A specification with one slot changed; null empties it. What no longer fits is dropped where it is saved. */
export function withSlot(spec: Spec, slot: Slot, value: unknown): Spec {
  const key = slot.kind === "column" ? "roles" : "options";
  const { [slot.name]: _, ...rest } = spec[key] ?? {};
  return { ...spec, [key]: value === null ? rest : { ...rest, [slot.name]: value } } as Spec;
}

/** A specification with options set, null taking one away. */
export function withOptions(spec: Spec, options: Record<string, unknown>): Spec {
  const all = Object.entries({ ...spec.options, ...options }).filter(([, value]) => value !== null);
  return { ...spec, options: Object.fromEntries(all) };
}
