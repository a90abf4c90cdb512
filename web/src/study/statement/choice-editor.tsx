import { RadioGroup } from "radix-ui";
import { useId, useState } from "react";
import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import { Option } from "./option";
import { type ChoiceSlot, chosen } from "./words";

type Props = { slot: ChoiceSlot; spec: Spec; onApply: (value: unknown) => void };

const bareWords = (choice: Schema["Choice"]) => choice.words.replace(/\{\w+\}/g, "…");

/** Which choice; one without fields applies at once, one with fields when they are filled. */
export function ChoiceEditor({ slot, spec, onApply }: Props) {
  const now = chosen(slot, spec);
  const [picked, setPicked] = useState(now.choice.value);
  const choice = slot.choices.find((choice) => choice.value === picked) ?? now.choice;
  const optionOf = (value: string, fields: Record<string, number>) =>
    slot.tag === "" ? value : { [slot.tag]: value, ...fields };
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
  given: Record<string, number>;
  onApply: (fields: Record<string, number>) => void;
};

function Fields({ choice, given, onApply }: FieldsProps) {
  const id = useId();
  const shift = (field: Schema["Field"]) => (field.point_number ? 1 : 0);
  const [texts, setTexts] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      choice.fields.map((field) => [
        field.name,
        field.name in given ? String((given[field.name] ?? 0) + shift(field)) : "",
      ]),
    ),
  );
  const numbers = choice.fields.map((field) => {
    const value = typedNumber(texts[field.name] ?? "");
    const whole = !field.point_number || Number.isInteger(value);
    return value == null || !whole || (field.low != null && value - shift(field) < field.low)
      ? null
      : value - shift(field);
  });
  const complete = numbers.every((value) => value !== null);
  return (
    <form
      className="mt-2 flex items-end gap-2 border-t border-hairline pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (complete)
          onApply(Object.fromEntries(choice.fields.map((field, index) => [field.name, numbers[index] as number])));
      }}
    >
      {choice.fields.map((field) => (
        <div key={field.name} className="flex-1">
          <label htmlFor={`${id}${field.name}`} className="block text-[13px] text-ink-soft">
            {field.label}
          </label>
          <input
            id={`${id}${field.name}`}
            inputMode="decimal"
            value={texts[field.name] ?? ""}
            onChange={(event) => setTexts({ ...texts, [field.name]: event.target.value })}
            className="h-8 w-full rounded-md border border-hairline bg-paper px-2"
          />
        </div>
      ))}
      <Button type="submit" look="primary" disabled={!complete}>
        Use
      </Button>
    </form>
  );
}
