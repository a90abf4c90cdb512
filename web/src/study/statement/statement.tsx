import { type KeyboardEvent, useRef } from "react";
import type { Schema } from "../../api/client";
import type { Dataset, Spec } from "../../api/queries";
import { SlotButton } from "./slot";
import { slotWords } from "./words";

type Props = {
  card: Schema["MethodCard"];
  spec: Spec;
  dataset: Dataset;
  /** Applies one slot at once: a role's column, or an option's value; null empties it. */
  onChange: (slot: Schema["Slot"], value: unknown) => void;
};

/** The sentence that sets a study up. Its slots open on Enter or click; left and right go from slot to slot. */
export function Statement({ card, spec, dataset, onChange }: Props) {
  const line = useRef<HTMLParagraphElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const slots = [...(line.current?.querySelectorAll<HTMLElement>("[data-slot]") ?? [])];
    const here = slots.indexOf(document.activeElement as HTMLElement);
    if (!step || here < 0) return;
    event.preventDefault();
    slots[Math.max(0, Math.min(slots.length - 1, here + step))]?.focus();
  };
  const parts = card.statement.split(/\{(\w+)\}/);
  return (
    <p ref={line} onKeyDown={onKeyDown} className="font-serif text-[20px] leading-[31px] text-ink-soft">
      {parts.map((part, index) => {
        const slot = index % 2 === 1 ? card.slots.find((slot) => slot.name === part) : undefined;
        if (!slot) return part;
        return (
          <SlotButton
            key={part}
            slot={slot}
            spec={spec}
            dataset={dataset}
            onChange={(value) => onChange(slot, value)}
          />
        );
      })}
    </p>
  );
}

/** The statement as plain words, for captions and exports. */
export function statementWords(card: Schema["MethodCard"], spec: Spec): string {
  const words = (name: string) => {
    const slot = card.slots.find((slot) => slot.name === name);
    return slot ? slotWords(slot, spec).text : name;
  };
  return card.statement.replace(/\{(\w+)\}/g, (_, name: string) => words(name));
}

/** A specification with one slot changed. */
export function withSlot(spec: Spec, slot: Schema["Slot"], value: unknown): Spec {
  const key = slot.filling === "column" ? "roles" : "options";
  const { [slot.name]: _, ...rest } = spec[key] ?? {};
  return { ...spec, [key]: value === null ? rest : { ...rest, [slot.name]: value } } as Spec;
}
