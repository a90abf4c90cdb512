import { Popover } from "radix-ui";
import { useState } from "react";
import type { Dataset, Spec } from "../../api/queries";
import { ChecklistEditor } from "./checklist-editor";
import { ChoiceEditor } from "./choice-editor";
import { ColumnEditor } from "./column-editor";
import { type Slot, slotWords } from "./words";

type Props = { slot: Slot; spec: Spec; dataset: Dataset; onChange: (value: unknown) => void };

/** A changeable part of the statement; opens a small popover on itself. */
export function SlotButton({ slot, spec, dataset, onChange }: Props) {
  const [open, setOpen] = useState(false);
  const { text, empty } = slotWords(slot, spec);
  const apply = (value: unknown) => {
    onChange(value);
    setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        data-slot={slot.name}
        aria-label={`${slot.label}: ${text}`}
        className={`inline cursor-pointer border-b-2 text-left leading-[1.1] hover:bg-tint data-[state=open]:border-solid data-[state=open]:border-moss data-[state=open]:bg-tint ${
          empty ? "border-solid border-ochre italic text-ochre" : "border-dotted border-ink-soft font-semibold text-ink"
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
          className="z-30 max-h-[480px] w-[340px] overflow-auto rounded-xl border border-hairline bg-sheet p-3 shadow-xl"
        >
          <p className="mb-2 text-[13px] font-semibold text-ink-soft">{slot.label}</p>
          {slot.filling === "column" && <ColumnEditor slot={slot} spec={spec} dataset={dataset} onApply={apply} />}
          {slot.filling === "choice" && <ChoiceEditor slot={slot} spec={spec} onApply={apply} />}
          {slot.filling === "checklist" && <ChecklistEditor slot={slot} spec={spec} onChange={onChange} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
