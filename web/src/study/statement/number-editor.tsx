import { useId, useState } from "react";
import type { Spec } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import type { NumberSlot } from "./words";

type Props = { slot: NumberSlot; spec: Spec; onApply: (value: number) => void };

/** One number within its bounds. */
export function NumberEditor({ slot, spec, onApply }: Props) {
  const id = useId();
  const given = spec.options?.[slot.name];
  const [text, setText] = useState(typeof given === "number" ? String(given) : String(slot.usual ?? ""));
  const value = typedNumber(text);
  const fits = typeof value === "number" && value >= slot.low && value <= slot.high;
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) onApply(value);
      }}
    >
      <div className="flex-1">
        <label htmlFor={id} className="block text-[13px] text-ink-soft">
          {slot.label}
          {slot.low > -1e300 ? `, from ${slot.low}` : ""}
        </label>
        <input
          id={id}
          inputMode="decimal"
          value={text}
          aria-invalid={text !== "" && !fits}
          onChange={(event) => setText(event.target.value)}
          className="h-8 w-full rounded-md border border-hairline bg-paper px-2 aria-invalid:border-clay"
        />
      </div>
      <Button type="submit" look="primary" disabled={!fits}>
        Use
      </Button>
      {slot.offered.map((number) => (
        <Button key={number} onClick={() => onApply(number)}>
          {number}
        </Button>
      ))}
    </form>
  );
}
