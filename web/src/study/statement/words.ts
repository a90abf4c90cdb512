import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";

export type Slot = Schema["Slot"];
export type ChoiceSlot = Extract<Slot, { filling: "choice" }>;
export type ChecklistSlot = Extract<Slot, { filling: "checklist" }>;
export type ColumnSlot = Extract<Slot, { filling: "column" }>;

/** A choice as it is set: which one, and its fields. */
export type Chosen = { choice: Schema["Choice"]; fields: Record<string, number> };

export function chosen(slot: ChoiceSlot, spec: Spec): Chosen {
  const given = spec.options?.[slot.name];
  const bare = typeof given === "string";
  const fields = (typeof given === "object" && given !== null ? given : {}) as Record<string, unknown>;
  const value = bare ? given : fields[slot.tag];
  const choice = slot.choices.find((choice) => choice.value === value) ?? slot.choices[0];
  if (!choice) throw new Error(`The slot ${slot.name} has no choice.`);
  const numbers = choice.fields.flatMap(({ name }) => (typeof fields[name] === "number" ? [[name, fields[name]]] : []));
  return { choice, fields: Object.fromEntries(numbers) };
}

/** The items that are on, with their lengths where one is set. */
export function checked(slot: ChecklistSlot, spec: Spec): Map<string, number | undefined> {
  const given = spec.options?.[slot.name];
  if (!Array.isArray(given))
    return new Map(slot.items.filter((item) => item.default_on).map((item) => [item.value, undefined]));
  return new Map(given.map((entry) => [String(entry[slot.tag]), entry.length as number | undefined]));
}

/** How a slot reads in the statement, and whether it still waits to be filled. */
export function slotWords(slot: Slot, spec: Spec): { text: string; empty: boolean } {
  switch (slot.filling) {
    case "column": {
      const name = spec.roles?.[slot.name];
      return typeof name === "string" ? { text: name, empty: false } : { text: slot.empty, empty: slot.required };
    }
    case "choice": {
      const { choice, fields } = chosen(slot, spec);
      const number = (name: string) => {
        const field = choice.fields.find((field) => field.name === name);
        const value = fields[name];
        return value === undefined ? "…" : String(field?.point_number ? value + 1 : value);
      };
      return { text: choice.words.replace(/\{(\w+)\}/g, (_, name: string) => number(name)), empty: false };
    }
    case "checklist": {
      const on = checked(slot, spec).size;
      return { text: on === 0 ? `no ${slot.one}` : on === 1 ? `1 ${slot.one}` : `${on} ${slot.many}`, empty: false };
    }
  }
}
