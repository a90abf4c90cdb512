import type { Schema } from "../../api/client";
import type { Column, Spec } from "../../api/queries";
import { counted } from "../../lib/format";

export type Card = Schema["MethodCard"];
export type Slot = Schema["Slot"];
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

/** The value of an option; one that is not set is told by what else is given, or is the first choice of its slot. */
function optionValue(card: Card, spec: Spec, name: string): unknown {
  const given = spec.options?.[name];
  if (given !== undefined && given !== null) return given;
  const slot = card.slots.find((slot) => slot.name === name && slot.kind === "choice") as ChoiceSlot | undefined;
  return slot && usualChoice(slot, spec)?.value;
}

/** The choice that is meant while none is set. */
function usualChoice(slot: ChoiceSlot, spec: Spec): Schema["Choice"] | undefined {
  const given = (name: string) => spec.roles?.[name] !== undefined || spec.options?.[name] != null;
  return slot.choices.findLast((choice) => choice.implied_by.some(given)) ?? slot.choices[0];
}

function shows(card: Card, slot: Slot, spec: Spec): boolean {
  return slot.shows.every(({ option, among, empty_role, filled_role, single_role, unset_option }) => {
    if (unset_option && spec.options?.[unset_option] != null) return false;
    if (single_role && columnsOf(spec, single_role).length > 1) return false;
    if (empty_role && spec.roles?.[empty_role]) return false;
    if (filled_role && !spec.roles?.[filled_role]) return false;
    return !option || among.includes(String(optionValue(card, spec, option)));
  });
}

/** The slots that show, one for each place. */
export function visibleSlots(card: Card, spec: Spec): Slot[] {
  const places = new Map<string, Slot>();
  for (const slot of card.slots) {
    if (!places.has(slot.at) && shows(card, slot, spec)) places.set(slot.at, slot);
  }
  return [...places.values()];
}

export function chosen(slot: ChoiceSlot, spec: Spec): Chosen {
  const given = spec.options?.[slot.name];
  const fields = (typeof given === "object" && given !== null ? given : {}) as Record<string, unknown>;
  // A choice with a field that is that field alone: {"width": 0.5}.
  const alone = slot.tag === "=" ? Object.keys(fields)[0] : fields[slot.tag];
  const value = typeof given === "string" ? given : alone;
  const choice = slot.choices.find((choice) => choice.value === value) ?? usualChoice(slot, spec);
  if (!choice) throw new Error(`The slot ${slot.name} has no choice.`);
  const given_ = choice.fields.flatMap(({ name }) => {
    const value = fields[name];
    return typeof value === "number" || typeof value === "string" ? [[name, value] as const] : [];
  });
  return { choice, fields: Object.fromEntries(given_) };
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

/** The columns that a statement is about, in its own order. */
export const subjectOf = (card: Card, spec: Spec): string[] =>
  visibleSlots(card, spec)
    .filter((slot) => slot.subject)
    .flatMap((slot) => columnsOf(spec, slot.name));

/** The columns that a study is about, by the card of its method. */
export const subjectIn = (cards: Card[] | undefined, spec: Spec): string[] => {
  const card = cards?.find(({ method }) => method === spec.method);
  return card ? subjectOf(card, spec) : [];
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

/** What shows only with a part of it: "[, set by {name}]". */
export function withParts(template: string, part: (name: string) => string | undefined): string {
  const fill = (text: string) => {
    let whole = true;
    const filled = text.replace(/\{(\w*)\}/g, (_, name: string) => {
      const words = part(name);
      if (words === undefined) whole = false;
      return words ?? "…";
    });
    return { filled, whole };
  };
  const optional = template.replace(/\[([^\]]*)\]/g, (_, inner: string) => {
    const { filled, whole } = fill(inner);
    return whole ? filled : "";
  });
  return fill(optional).filled;
}

/** "1.1 to 1.3 mm", "at most 2.5 mL/min": the limits of the column, or those that the statement has of its own. */
function limitWords(slot: Extract<Slot, { kind: "limits" }>, spec: Spec, columns: Column[] | undefined) {
  const own = [spec.options?.lsl, spec.options?.usl];
  const column = columns?.find((column) => column.name === columnsOf(spec, slot.of)[0]);
  if (!column && own.every((limit) => limit == null)) return { text: "its limits", waits: false, filled: true };
  const table = own.every((limit) => limit == null) ? column?.limit_table : null;
  if (table) {
    const chooser = columns?.find(({ id }) => id === (table.by ?? table.since));
    return { text: `its limits by ${chooser?.name ?? "product"}`, waits: false, filled: true };
  }
  const [lsl, usl] = own.some((limit) => limit != null) ? own : [column?.lsl, column?.usl];
  const unit = column?.unit ? ` ${column.unit}` : "";
  if (lsl == null && usl == null) return { text: "limits not set yet", waits: true, filled: false };
  const text = lsl == null ? `at most ${usl}` : usl == null ? `at least ${lsl}` : `${lsl} to ${usl}`;
  return { text: text + unit, waits: false, filled: true };
}

/** "units inspected 1250, defects found 193", "3 steps". */
function typedWords(slot: TypedSlot, spec: Spec) {
  if (slot.list) {
    const rows = spec.options?.[slot.list];
    const count = Array.isArray(rows) ? rows.length : 0;
    return count === 0 ? "type them below" : counted(count, slot.row_word, `${slot.row_word}s`);
  }
  const given = slot.fields.flatMap(({ name, label }) =>
    spec.options?.[name] == null ? [] : [`${label} ${spec.options[name]}`],
  );
  return given.length === 0 ? "type them below" : given.join(", ");
}

/** Whether all that must be typed is there. */
function typedWaits(slot: TypedSlot, spec: Spec): boolean {
  if (slot.list)
    return !Array.isArray(spec.options?.[slot.list]) || (spec.options[slot.list] as unknown[]).length === 0;
  return slot.fields.some(({ name, required }) => required && spec.options?.[name] == null);
}

export type BuiltSlot = Extract<Slot, { kind: "built" }>;

/** "4 inputs", "search for better settings". */
function builtWords(slot: BuiltSlot, spec: Spec): SlotWords {
  const given = spec.options?.[slot.name];
  const filled = Array.isArray(given) ? given.length > 0 : given != null;
  const text = !filled ? slot.unset : Array.isArray(given) ? counted(given.length, slot.one, slot.many) : slot.many;
  return { text, waits: slot.required && !filled, filled };
}

type SlotWords = { text: string; waits: boolean; filled: boolean };

/** How a slot reads in the statement, whether it still waits to be filled, and whether anything was chosen. */
export function slotWords(slot: Slot, spec: Spec, columns?: Column[]): SlotWords {
  switch (slot.kind) {
    case "column": {
      const names = columnsOf(spec, slot.name);
      if (names.length === 0) return { text: slot.empty, waits: slot.required, filled: false };
      if (slot.ordered) return { text: names.join(" › "), waits: false, filled: true };
      const text = names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(", ");
      return { text, waits: false, filled: true };
    }
    case "number": {
      const value = spec.options?.[slot.name];
      if (typeof value !== "number")
        return { text: slot.unset, waits: slot.usual == null && !slot.quiet, filled: false };
      return { text: slot.words.replace("{}", String(value)), waits: false, filled: true };
    }
    case "switch":
      return { text: isOn(slot, spec) ? slot.on : slot.off, waits: false, filled: isOn(slot, spec) !== slot.usual };
    case "label": {
      const value = spec.options?.[slot.name];
      if (typeof value !== "string") return { text: slot.empty, waits: slot.required, filled: false };
      return { text: slot.words.replace("{}", value), waits: false, filled: true };
    }
    case "per-label":
    case "per-point": {
      const given = spec.options?.[slot.name];
      const count = given && typeof given === "object" ? Object.keys(given).length : 0;
      return { text: count === 0 ? slot.unset : `${count} of their own`, waits: false, filled: count > 0 };
    }
    case "rows": {
      const stretches = rowsOf(slot, spec);
      const count = stretches.reduce((sum, [first, last]) => sum + last - first + 1, 0);
      return { text: count === 0 ? slot.empty : `${counted(count, "row", "rows")}`, waits: false, filled: count > 0 };
    }
    case "left-out": {
      const rows = leftOutOf(slot, spec).flatMap(({ rows }) => rows);
      const count = rows.reduce((sum, [first, last]) => sum + last - first + 1, 0);
      return { text: count === 0 ? slot.unset : counted(count, "row", "rows"), waits: false, filled: count > 0 };
    }
    case "renames": {
      const count = Object.keys(renamesOf(slot, spec)).length;
      const text = count === 0 ? slot.unset : `${counted(count, "name", "names")} counted as another`;
      return { text, waits: false, filled: count > 0 };
    }
    case "counts": {
      const table = countsOf(slot, spec);
      const text = table ? `${table.rows.length} by ${table.columns.length} counts` : "type it below";
      return { text, waits: !table, filled: true };
    }
    case "cuts": {
      const cuts = cutsOf(spec).filter((cut) => cut.first > 0).length;
      return { text: `${cuts + 1} phases cut by hand`, waits: false, filled: cuts > 0 };
    }
    case "choice": {
      const { choice, fields } = chosen(slot, spec);
      const words = (name: string) => {
        const field = choice.fields.find((field) => field.name === name);
        const value = fields[name];
        if (value === undefined || value === "") return undefined;
        return String(field?.kind === "point" && typeof value === "number" ? value + 1 : value);
      };
      return { text: withParts(choice.words, words), waits: false, filled: choice !== slot.choices[0] };
    }
    case "limits":
      return limitWords(slot, spec, columns);
    case "built":
      return builtWords(slot, spec);
    case "typed":
      return { text: typedWords(slot, spec), waits: typedWaits(slot, spec), filled: true };
    case "checklist": {
      const on = checked(slot, spec).size;
      const text = on === 0 ? `no ${slot.one}` : on === 1 ? `1 ${slot.one}` : `${on} ${slot.many}`;
      return { text, waits: false, filled: spec.options?.[slot.name] !== undefined };
    }
  }
}

/** Text and slots of a statement in order; what is in brackets only with all its slots. */
export function statementParts(card: Card, spec: Spec): (string | Slot)[] {
  const visible = visibleSlots(card, spec);
  const slotAt = (at: string) => {
    const slot = visible.find((slot) => slot.at === at);
    return slot && !(slot.quiet && !slotWords(slot, spec).filled) ? slot : undefined;
  };
  const parts: (string | Slot)[] = [];
  for (const segment of card.statement.split(/(\[[^\]]*\])/)) {
    const optional = segment.startsWith("[");
    const pieces = (optional ? segment.slice(1, -1) : segment)
      .split(/\{(\w+)\}/)
      .map((piece, index) => (index % 2 === 1 ? slotAt(piece) : piece));
    if (optional && pieces.includes(undefined)) continue;
    parts.push(...pieces.filter((piece): piece is string | Slot => piece !== undefined && piece !== ""));
  }
  return parts;
}

/** Slots that can be added to the statement. */
export const quietSlots = (card: Card, spec: Spec): Slot[] =>
  visibleSlots(card, spec).filter((slot) => slot.quiet && slot.kind !== "cuts" && !slotWords(slot, spec).filled);

/** Whether the statement can be answered. */
export const isComplete = (card: Card, spec: Spec): boolean =>
  statementParts(card, spec).every((part) => typeof part === "string" || !slotWords(part, spec).waits);

/** The statement as plain words, for captions and exports. */
export const statementWords = (card: Card, spec: Spec, columns?: Column[]): string =>
  statementParts(card, spec)
    .map((part) => (typeof part === "string" ? part : slotWords(part, spec, columns).text))
    .join("");

/** A specification with one slot changed; null empties it. Choices that no longer fit are dropped. */
export function withSlot(card: Card, spec: Spec, slot: Slot, value: unknown): Spec {
  const key = slot.kind === "column" ? "roles" : "options";
  const { [slot.name]: _, ...rest } = spec[key] ?? {};
  const changed = { ...spec, [key]: value === null ? rest : { ...rest, [slot.name]: value } } as Spec;
  return withFitting(card, changed);
}

/** A specification with options set, null taking one away. */
export function withOptions(card: Card, spec: Spec, options: Record<string, unknown>): Spec {
  const all = Object.entries({ ...spec.options, ...options }).filter(([, value]) => value !== null);
  return withFitting(card, { ...spec, options: Object.fromEntries(all) });
}

function withFitting(card: Card, spec: Spec): Spec {
  const options = { ...spec.options };
  for (const slot of visibleSlots(card, spec)) {
    const given = options[slot.name];
    if (slot.kind !== "choice" || typeof given !== "string") continue;
    if (!slot.choices.some((choice) => choice.value === given)) delete options[slot.name];
  }
  return { ...spec, options };
}
