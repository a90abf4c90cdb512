import { Check } from "lucide-react";
import { Checkbox } from "radix-ui";
import { useId, useState } from "react";
import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";
import { type ChecklistSlot, checked } from "./words";

type Props = {
  slot: ChecklistSlot;
  spec: Spec;
  /** Applies a change to whatever is chosen by then: a click may come before the one before it is saved. */
  onChange: (value: (spec: Spec) => unknown) => void;
};
type Lengths = Map<string, number | undefined>;
type Item = Schema["Item"];

/** Any number of items, each with its length; every change applies at once. */
export function ChecklistEditor({ slot, spec, onChange }: Props) {
  const on = checked(slot, spec);
  const apply = (change: (on: Lengths) => void) =>
    onChange((spec) => {
      const next: Lengths = new Map(checked(slot, spec));
      change(next);
      return slot.items
        .filter((item) => next.has(item.value))
        .map((item) => {
          const length = next.get(item.value);
          return { [slot.tag]: item.value, ...(length === undefined ? {} : { length }) };
        });
    });
  // What the box shows decides, so that a second click before the first is saved does not turn it twice.
  const toggle = (item: Item) => {
    const turnOn = !on.has(item.value);
    apply((next) => {
      if (turnOn) next.set(item.value, next.get(item.value));
      else next.delete(item.value);
    });
  };
  return (
    <ul className="flex flex-col gap-0.5">
      {slot.items.map((item) => (
        <Row
          key={item.value}
          item={item}
          on={on.has(item.value)}
          length={on.get(item.value) ?? item.length?.default}
          onToggle={() => toggle(item)}
          onLength={(length) => apply((next) => next.set(item.value, length))}
        />
      ))}
    </ul>
  );
}

type RowProps = { item: Item; on: boolean; length?: number; onToggle: () => void; onLength: (length: number) => void };

const finds = (item: Item, length = 0) =>
  item.finds.replace("{length+1}", String(length + 1)).replace("{length}", String(length));

function Row({ item, on, length, onToggle, onLength }: RowProps) {
  const id = useId();
  return (
    <li className="flex items-start gap-2 rounded-md px-2 py-1 hover:bg-tint">
      <Checkbox.Root
        id={id}
        checked={on}
        onCheckedChange={onToggle}
        className="mt-0.5 flex h-4 w-4 shrink-0 items-center justify-center rounded border-2 border-ink-soft data-[state=checked]:border-moss data-[state=checked]:bg-moss"
      >
        <Checkbox.Indicator>
          <Check size={12} strokeWidth={3} className="text-on-moss" aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="flex-1">
        <span className="font-medium">{item.label}</span>
        <span className="block text-[13px] text-ink-soft">{finds(item, length)}</span>
      </label>
      {item.length && on && <LengthField item={item} bounds={item.length} value={length ?? 0} onLength={onLength} />}
    </li>
  );
}

type LengthProps = { item: Item; bounds: Schema["Length"]; value: number; onLength: (length: number) => void };

/** The length of a pattern; applied when it is a whole number within its bounds, kept as typed until then. */
function LengthField({ item, bounds, value, onLength }: LengthProps) {
  const [text, setText] = useState(String(value));
  const number = Number(text);
  const fits = Number.isInteger(number) && number >= bounds.low && number <= bounds.high;
  return (
    <input
      type="number"
      aria-label={`length of ${item.label}`}
      aria-invalid={!fits}
      title={`From ${bounds.low} to ${bounds.high}`}
      min={bounds.low}
      max={bounds.high}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        const next = Number(event.target.value);
        if (Number.isInteger(next) && next >= bounds.low && next <= bounds.high) onLength(next);
      }}
      className="h-7 w-14 rounded-md border border-hairline bg-paper px-1.5 aria-invalid:border-clay"
    />
  );
}
