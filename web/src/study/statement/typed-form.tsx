import { Plus, X } from "lucide-react";
import { useId } from "react";
import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { type Options, useTyping } from "./use-typing";
import type { TypedSlot } from "./words";

type Texts = Record<string, string>[];
type Props = {
  slot: TypedSlot;
  spec: Spec;
  /** The options as they stand while typing, or null while they are not complete. */
  onTry: (options: Options | null) => void;
  onSave: (options: Options) => void;
};

/** What the options hold, as it would be typed. */
function textsOf(slot: TypedSlot, spec: Spec): Texts {
  const rows = slot.list ? spec.options?.[slot.list] : [spec.options ?? {}];
  const given = Array.isArray(rows) ? (rows as Options[]) : [];
  const texts = given.map((row) =>
    Object.fromEntries(slot.fields.map(({ name }) => [name, row[name] == null ? "" : String(row[name])])),
  );
  return texts.length > 0 ? texts : [{}];
}

function typedValue(field: Schema["Field"], text: string): string | number | null | undefined {
  if (field.kind === "text") return text.trim() || null;
  const value = typedNumber(text);
  return typeof value === "number" && field.low != null && value < field.low ? undefined : value;
}

/** The options that the texts make; null while something is missing or is no number. */
function optionsOf(slot: TypedSlot, texts: Texts): Options | null {
  // A row not begun yet is none.
  const begun = texts.filter((row) => !slot.list || Object.values(row).some((text) => text.trim() !== ""));
  const rows = begun.map((row) => {
    const values = slot.fields.map((field) => [field, typedValue(field, row[field.name] ?? "")] as const);
    const complete = values.every(([field, value]) => value !== undefined && (value !== null || !field.required));
    // In a list an empty field is left out; an option of its own is taken away.
    const kept = values.filter(([, value]) => !slot.list || value !== null);
    return complete ? Object.fromEntries(kept.map(([field, value]) => [field.name, value])) : null;
  });
  if (rows.length === 0 || rows.includes(null)) return null;
  return slot.list ? { [slot.list]: rows } : (rows[0] ?? null);
}

/** Numbers typed over the figure: an answer with every key. */
export function TypedForm({ slot, spec, onTry, onSave }: Props) {
  const {
    typed: texts,
    change,
    flush,
  } = useTyping({
    stored: textsOf(slot, spec),
    optionsOf: (texts) => optionsOf(slot, texts),
    storedWith: (options) => textsOf(slot, { ...spec, options: { ...spec.options, ...options } }),
    onTry,
    onSave,
  });
  const row = (index: number, text: string, name: string) =>
    change(texts.map((row, place) => (place === index ? { ...row, [name]: text } : row)));
  return (
    <fieldset aria-label={slot.label} className="flex flex-col gap-1.5 px-6 pt-3" onBlur={flush}>
      {texts.map((typed, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place
        <div key={index} className="flex flex-wrap items-end gap-3">
          {slot.fields.map((field) => (
            <TypedField
              key={field.name}
              field={field}
              text={typed[field.name] ?? ""}
              labelled={index === 0}
              of={slot.list ? `, row ${index + 1}` : ""}
              onType={(text) => row(index, text, field.name)}
            />
          ))}
          {slot.list && texts.length > 1 && (
            <button
              type="button"
              aria-label={`Remove row ${index + 1}`}
              onClick={() => change(texts.filter((_, place) => place !== index))}
              className="mb-1 rounded-md p-1 text-ink-soft hover:bg-tint hover:text-clay"
            >
              <X size={15} aria-hidden />
            </button>
          )}
        </div>
      ))}
      {slot.list && (
        <button
          type="button"
          onClick={() => change([...texts, {}])}
          className="flex items-center gap-1 self-start rounded-md px-1 text-[13px] font-medium text-moss hover:bg-tint"
        >
          <Plus size={14} aria-hidden /> another step
        </button>
      )}
    </fieldset>
  );
}

type FieldProps = {
  field: Schema["Field"];
  text: string;
  labelled: boolean;
  of: string;
  onType: (text: string) => void;
};

function TypedField({ field, text, labelled, of, onType }: FieldProps) {
  const id = useId();
  const wrong = text.trim() !== "" && typedValue(field, text) === undefined;
  return (
    <div>
      <label htmlFor={id} className={labelled ? "block text-[13px] text-ink-soft" : "sr-only"}>
        {field.label}
        {!field.required && labelled && " (if any)"}
        {of && <span className="sr-only">{of}</span>}
      </label>
      <input
        id={id}
        value={text}
        inputMode={field.kind === "text" ? undefined : "decimal"}
        aria-invalid={wrong}
        onChange={(event) => onType(event.target.value)}
        className={`h-9 rounded-md border border-hairline bg-paper px-2 text-[16px] aria-invalid:border-clay ${field.kind === "text" ? "w-40" : "w-32"}`}
      />
    </div>
  );
}
