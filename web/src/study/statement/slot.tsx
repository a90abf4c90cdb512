import { Popover } from "radix-ui";
import { useState } from "react";
import type { Dataset, Spec } from "../../api/queries";
import { Advice } from "./advice";
import { ChecklistEditor } from "./checklist-editor";
import { ChoiceEditor } from "./choice-editor";
import { ColumnEditor } from "./column-editor";
import { CutsEditor } from "./cuts-editor";
import { NumberEditor } from "./number-editor";
import { SwitchEditor } from "./switch-editor";
import { type Card, type Slot, slotWords, withSlot } from "./words";

type Props = {
  slot: Slot;
  card: Card;
  spec: Spec;
  dataset: Dataset;
  onChange: (change: (spec: Spec) => Spec) => void;
};

export const SLOT_POPOVER =
  "z-30 max-h-[min(520px,var(--radix-popover-content-available-height))] w-[350px] overflow-auto rounded-xl border border-hairline bg-sheet p-3 font-sans text-[15px] leading-normal text-ink shadow-xl";

/** A changeable part of the statement; opens a small popover on itself. */
export function SlotButton(props: Props) {
  const [open, setOpen] = useState(false);
  const { slot, spec } = props;
  const { text, waits } = slotWords(slot, spec);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        data-slot={slot.at}
        aria-label={`${slot.label}: ${text}`}
        className={`inline cursor-pointer border-b-2 text-left leading-[1.1] hover:bg-tint data-[state=open]:border-solid data-[state=open]:border-moss data-[state=open]:bg-tint ${
          waits ? "border-solid border-ochre italic text-ochre" : "border-dotted border-ink-soft font-semibold text-ink"
        }`}
      >
        {text}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label={slot.label}
          className={SLOT_POPOVER}
        >
          <SlotEditor {...props} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What fills a slot. */
export function SlotEditor({ slot, card, spec, dataset, onChange, onDone }: Props & { onDone: () => void }) {
  const set = (value: unknown) => onChange((spec) => withSlot(card, spec, slot, value));
  const apply = (value: unknown) => {
    set(value);
    onDone();
  };
  return (
    <>
      <p className="mb-2 text-[13px] font-semibold text-ink-soft">{slot.label}</p>
      {slot.name === "chart" && (
        <Advice card={card} dataset={dataset} onUse={(proposal) => onChange(proposal)} onDone={onDone} />
      )}
      {slot.filling === "column" && (
        <ColumnEditor slot={slot} spec={spec} dataset={dataset} onApply={apply} onSet={set} />
      )}
      {slot.filling === "choice" && <ChoiceEditor slot={slot} spec={spec} onApply={apply} />}
      {slot.filling === "checklist" && (
        <ChecklistEditor
          slot={slot}
          spec={spec}
          onChange={(value) => onChange((spec) => withSlot(card, spec, slot, value(spec)))}
        />
      )}
      {slot.filling === "number" && <NumberEditor slot={slot} spec={spec} onApply={apply} />}
      {slot.filling === "switch" && <SwitchEditor slot={slot} spec={spec} onApply={apply} />}
      {slot.filling === "cuts" && <CutsEditor spec={spec} onChange={set} />}
    </>
  );
}
