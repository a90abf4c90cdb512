import { Link } from "@tanstack/react-router";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Dataset, Spec } from "../../api/queries";
import { Button } from "../../parts/button";
import { Explained } from "../../parts/explained";
import { Advice } from "./advice";
import { BuiltEditor } from "./built-editor";
import { ChecklistEditor } from "./checklist-editor";
import { ChoiceEditor } from "./choice-editor";
import { ColumnEditor } from "./column-editor";
import { CutsEditor } from "./cuts-editor";
import { LabelEditor } from "./label-editor";
import { LeftOutEditor } from "./left-out-editor";
import { LimitsEditor } from "./limits-editor";
import { NumberEditor } from "./number-editor";
import { PerLabelEditor } from "./per-label-editor";
import { PerPointEditor } from "./per-point-editor";
import { RenamesEditor } from "./renames-editor";
import { SwitchEditor } from "./switch-editor";
import { type Card, columnsOf, type Slot, type SlotState, withSlot } from "./words";

type Props = {
  slot: Slot;
  /** What stands in it. */
  state: SlotState;
  card: Card;
  spec: Spec;
  dataset: Dataset;
  onChange: (change: (spec: Spec) => Spec) => void;
};

export const SLOT_POPOVER =
  "z-30 max-h-[min(520px,var(--radix-popover-content-available-height))] w-[350px] overflow-auto rounded-xl border border-hairline bg-sheet p-3 font-sans text-[15px] leading-normal text-ink shadow-xl";

/** Opening goes to what fills the slot, past the word that tells what it is. */
export function toFilling(event: Event) {
  const first = (event.currentTarget as HTMLElement).querySelector<HTMLElement>("input, button, select, textarea");
  if (!first) return;
  event.preventDefault();
  first.focus();
}

/** A changeable part of the statement; opens a small popover on itself. */
export function SlotButton(props: Props) {
  const [open, setOpen] = useState(false);
  const { slot, state } = props;
  const { text, waits } = state;
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
          onOpenAutoFocus={toFilling}
          className={SLOT_POPOVER}
        >
          <SlotEditor {...props} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What fills a slot. */
export function SlotEditor({ slot, state, card, spec, dataset, onChange, onDone }: Props & { onDone: () => void }) {
  const set = (value: unknown) => onChange((spec) => withSlot(spec, slot, value));
  const apply = (value: unknown) => {
    set(value);
    onDone();
  };
  return (
    <>
      <p className="mb-2 text-[13px] font-semibold text-ink-soft">
        <Explained head>{slot.label}</Explained>
      </p>
      {slot.advises && (
        <Advice card={card} dataset={dataset} onUse={(proposal) => onChange(proposal)} onDone={onDone} />
      )}
      {slot.kind === "column" && <ColumnEditor slot={slot} spec={spec} dataset={dataset} onApply={apply} onSet={set} />}
      {slot.kind === "label" && <LabelEditor slot={slot} spec={spec} dataset={dataset} onApply={apply} />}
      {slot.kind === "per-label" && <PerLabelEditor slot={slot} spec={spec} dataset={dataset} onSet={set} />}
      {slot.kind === "per-point" && <PerPointEditor slot={slot} spec={spec} dataset={dataset} onSet={set} />}
      {slot.kind === "choice" && <ChoiceEditor slot={slot} spec={spec} holds={state.choice} onApply={apply} />}
      {slot.kind === "checklist" && (
        <ChecklistEditor
          slot={slot}
          spec={spec}
          onChange={(value) => onChange((spec) => withSlot(spec, slot, value(spec)))}
        />
      )}
      {slot.kind === "number" && <NumberEditor slot={slot} spec={spec} onApply={apply} />}
      {slot.kind === "switch" && <SwitchEditor slot={slot} spec={spec} onApply={apply} />}
      {slot.kind === "limits" && (
        <LimitsSlot of={slot.of} spec={spec} dataset={dataset} onOwn={(change) => onChange(change)} />
      )}
      {slot.kind === "renames" && <RenamesEditor slot={slot} spec={spec} dataset={dataset} onSet={set} />}
      {(slot.kind === "typed" || slot.kind === "counts") && (
        <p className="text-ink-soft">Type them over the figure; the answer follows.</p>
      )}
      {slot.kind === "built" && <BuiltEditor slot={slot} spec={spec} onSet={set} />}
      {slot.kind === "left-out" && <LeftOutEditor slot={slot} spec={spec} onSet={set} />}
      {slot.kind === "rows" && (
        <>
          <p className="text-ink-soft">
            Rows come from where they stood out: ask there, at the signal of a chart, what they have in common.
          </p>
          {state.filled && (
            <Button className="mt-2" onClick={() => apply(null)}>
              Ask about a column instead
            </Button>
          )}
        </>
      )}
      {slot.kind === "cuts" && <CutsEditor spec={spec} onChange={set} />}
    </>
  );
}

type LimitsProps = { of: string; spec: Spec; dataset: Dataset; onOwn: Props["onChange"] };

/** Limits of the column; those that a statement has of its own can be given up for them. */
function LimitsSlot({ of, spec, dataset, onOwn }: LimitsProps) {
  const column = dataset.columns.find((column) => column.name === columnsOf(spec, of)[0]);
  if (!column) return <p className="text-ink-soft">Choose the measurement first; its limits belong to it.</p>;
  const isOwn = spec.options?.lsl != null || spec.options?.usl != null;
  if (!isOwn && column.limit_table)
    return (
      <p>
        They differ among the rows. They are told with the column,{" "}
        <Link
          to="/data/$id"
          params={{ id: dataset.id }}
          search={{ column: column.id }}
          className="font-semibold text-moss hover:underline"
        >
          on the Data page
        </Link>
        .
      </p>
    );
  if (!isOwn) return <LimitsEditor column={column} dataset={dataset} />;
  const giveUp = (spec: Spec) => {
    const { lsl: _lsl, usl: _usl, target: _target, ...options } = spec.options ?? {};
    return { ...spec, options };
  };
  return (
    <>
      <p>This statement has limits of its own, set through the API.</p>
      <Button className="mt-2" onClick={() => onOwn(giveUp)}>
        Take those of {column.name} instead
      </Button>
    </>
  );
}
