import type { Schema } from "../api/client";
import type { Column } from "../api/queries";
import { isNumeric, typedNumber } from "./format";

/** A property that is typed as text. */
export type Field =
  | "unit"
  | "decimals"
  | "lsl"
  | "target"
  | "usl"
  | "lower_bound"
  | "upper_bound"
  | "lowest"
  | "highest"
  | "choices"
  | "causes";

/** The fields in their order, each with its words. */
export const FIELDS: [Field, string][] = [
  ["unit", "unit"],
  ["decimals", "decimals"],
  ["lsl", "LSL"],
  ["target", "target"],
  ["usl", "USL"],
  ["lower_bound", "lower bound"],
  ["upper_bound", "upper bound"],
  ["lowest", "lowest believed"],
  ["highest", "highest believed"],
  ["choices", "choices"],
  ["causes", "causes"],
];

type Rules = NonNullable<Schema["ColumnChange"]["rules"]>;
type Properties = Schema["ColumnChange"];

const ofRules = (field: Field): field is keyof Rules & Field =>
  ["lower_bound", "upper_bound", "lowest", "highest", "choices", "causes"].includes(field);

/** Whether a column has such a property. */
export const hasField = ({ kind }: Pick<Column, "kind">, field: Field): boolean =>
  field === "choices" ? kind === "category" : isNumeric(kind);

/** A property as text. */
export function textOf(column: Properties | Column, field: Field): string {
  if (field === "choices") return (column.rules?.choices ?? []).join(", ");
  if (field === "causes") return (column.rules?.causes ?? []).join("; ");
  const value = ofRules(field) ? column.rules?.[field] : column[field];
  return value == null ? "" : String(value);
}

/** Whether a property is a number. */
export const isNumberField = (field: Field): boolean => !["unit", "choices", "causes"].includes(field);

/** Whether a text can be the property. */
export const fitsField = (field: Field, text: string): boolean =>
  !isNumberField(field) || typedNumber(text) !== undefined;

/** A column with a property as typed; the text fits. */
export function withField(column: Properties, field: Field, text: string): Properties {
  if (field === "unit") return { ...column, unit: text.trim() || null };
  if (field === "choices" || field === "causes") {
    // A cause is a few words, in which a comma may stand.
    const texts = text
      .split(field === "causes" ? /[;\n]/ : /[,;\n]/)
      .map((one) => one.trim())
      .filter(Boolean);
    return { ...column, rules: { ...column.rules, [field]: texts } };
  }
  const value = typedNumber(text) ?? null;
  return ofRules(field) ? { ...column, rules: { ...column.rules, [field]: value } } : { ...column, [field]: value };
}

/** What can be changed of a column. */
export function propertiesOf(column: Column): Properties {
  const { name, kind, unit, decimals, lsl, target, usl, limit_table, rules, gauge_id, formula } = column;
  return { name, kind, unit, decimals, lsl, target, usl, limit_table, rules, gauge_id, formula } as Properties;
}
