import { RadioGroup } from "radix-ui";
import { useId, useState } from "react";
import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import { Option } from "./option";
import { type ChoiceSlot, type Chosen, chosen } from "./words";

type Props = { slot: ChoiceSlot; spec: Spec; holds: string | null | undefined; onApply: (value: unknown) => void };

/** How a choice reads before its fields are filled. */
const bareWords = (choice: Schema["Choice"]) => choice.words.replace(/\[[^\]]*\]/g, "").replace(/\{\w*\}/g, "…");

/** Which choice; one without fields applies at once, one with fields when they are filled. */
export function ChoiceEditor({ slot, spec, holds, onApply }: Props) {
  const now = chosen(slot, spec, holds);
  const [picked, setPicked] = useState(now.choice.value);
  const choice = slot.choices.find((choice) => choice.value === picked) ?? now.choice;
  const optionOf = (value: string, fields: Chosen["fields"]) =>
    slot.tag === "" || (slot.tag === "=" && Object.keys(fields).length === 0)
      ? value
      : slot.tag === "="
        ? fields
        : { [slot.tag]: value, ...fields };
  const pick = (value: string) => {
    setPicked(value);
    if (slot.choices.find((choice) => choice.value === value)?.fields.length === 0) onApply(optionOf(value, {}));
  };
  return (
    <>
      <RadioGroup.Root aria-label={slot.label} value={picked} onValueChange={pick}>
        {slot.choices.map((choice) => (
          <Option key={choice.value} value={choice.value} words={bareWords(choice)} hint={choice.use_when} />
        ))}
      </RadioGroup.Root>
      {choice.fields.length > 0 && (
        <Fields
          key={choice.value}
          choice={choice}
          given={now.choice === choice ? now.fields : {}}
          onApply={(fields) => onApply(optionOf(choice.value, fields))}
        />
      )}
    </>
  );
}

type FieldsProps = {
  choice: Schema["Choice"];
  given: Chosen["fields"];
  onApply: (fields: Chosen["fields"]) => void;
};

/** What is typed as the value of a field: undefined when it does not fit, null when it is left empty. */
function fieldValue(field: Schema["Field"], text: string): string | number | null | undefined {
  if (field.kind === "text" || field.kind === "date") return text.trim() || null;
  const value = typedNumber(text);
  if (typeof value !== "number") return value;
  const shifted = field.kind === "point" ? value - 1 : value;
  const fits = (field.kind !== "point" || Number.isInteger(value)) && (field.low == null || shifted >= field.low);
  return fits ? shifted : undefined;
}

const fieldText = (field: Schema["Field"], given: string | number | undefined) =>
  given === undefined ? "" : String(field.kind === "point" && typeof given === "number" ? given + 1 : given);

const INPUT = { number: "text", point: "text", text: "text", date: "date" } as const;

function Fields({ choice, given, onApply }: FieldsProps) {
  const id = useId();
  const today = new Date().toISOString().slice(0, 10);
  const [texts, setTexts] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      choice.fields.map((field) => [
        field.name,
        fieldText(field, given[field.name]) || (field.kind === "date" ? today : ""),
      ]),
    ),
  );
  const values = choice.fields.map((field) => ({ field, value: fieldValue(field, texts[field.name] ?? "") }));
  const complete = values.every(({ field, value }) => value !== undefined && (value !== null || !field.required));
  return (
    <form
      className="mt-2 grid grid-cols-2 items-end gap-2 border-t border-hairline pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!complete) return;
        const kept = values.flatMap(({ field, value }) => (value == null ? [] : [[field.name, value] as const]));
        onApply(Object.fromEntries(kept));
      }}
    >
      {choice.fields.map((field) => (
        <div key={field.name}>
          <label htmlFor={`${id}${field.name}`} className="block text-[13px] text-ink-soft">
            {field.label}
          </label>
          <input
            id={`${id}${field.name}`}
            type={INPUT[field.kind]}
            inputMode={INPUT[field.kind] === "text" && field.kind !== "text" ? "decimal" : undefined}
            value={texts[field.name] ?? ""}
            onChange={(event) => setTexts({ ...texts, [field.name]: event.target.value })}
            className="h-8 w-full rounded-md border border-hairline bg-paper px-2"
          />
        </div>
      ))}
      <Button type="submit" look="primary" disabled={!complete} className="col-span-2 justify-self-end">
        Use
      </Button>
    </form>
  );
}
