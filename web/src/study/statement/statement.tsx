import { Plus } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, useRef, useState } from "react";
import type { Dataset, Spec } from "../../api/queries";
import { OrderedSlot } from "./ordered-slot";
import { SLOT_POPOVER, SlotButton, SlotEditor, toFilling } from "./slot";
import { type Card, type StatedSlot, type Statement as StatementRead, statedSlots } from "./words";

type Props = {
  card: Card;
  spec: Spec;
  /** How it reads, as the core says. */
  statement: StatementRead;
  dataset: Dataset;
  /** Applies a change to the statement at once. */
  onChange: (change: (spec: Spec) => Spec) => void;
};

/** The sentence that sets a study up. Its slots open on Enter or click; left and right go from slot to slot. */
export function Statement({ card, spec, statement, dataset, onChange }: Props) {
  const line = useRef<HTMLParagraphElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const slots = [...(line.current?.querySelectorAll<HTMLElement>("[data-slot]") ?? [])];
    const here = slots.indexOf(document.activeElement as HTMLElement);
    if (!step || here < 0) return;
    event.preventDefault();
    slots[Math.max(0, Math.min(slots.length - 1, here + step))]?.focus();
  };
  const stated = statedSlots(card, statement);
  const more = stated.filter(({ slot, state }) => state.offered && slot.kind !== "cuts");
  return (
    <p ref={line} onKeyDown={onKeyDown} className="font-serif text-[20px] leading-[31px] text-ink-soft">
      {statement.parts.map((part, index) => {
        const one = stated.find(({ state }) => state.slot === part.slot);
        // biome-ignore lint/suspicious/noArrayIndexKey: text has no name of its own
        if (!one) return <span key={`text ${index}`}>{part.text}</span>;
        const { slot, state } = one;
        return slot.kind === "column" && slot.ordered && state.filled ? (
          <OrderedSlot
            key={slot.at}
            slot={slot}
            state={state}
            card={card}
            spec={spec}
            dataset={dataset}
            onChange={onChange}
          />
        ) : (
          <SlotButton
            key={slot.at}
            slot={slot}
            state={state}
            card={card}
            spec={spec}
            dataset={dataset}
            onChange={onChange}
          />
        );
      })}
      {more.length > 0 && <More slots={more} card={card} spec={spec} dataset={dataset} onChange={onChange} />}
    </p>
  );
}

/** What the statement can say besides; chosen here, it joins the sentence. */
function More({ slots, ...rest }: Omit<Props, "statement"> & { slots: StatedSlot[] }) {
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState<string | null>(null);
  const one = slots.find(({ slot }) => slot.at === at) ?? (slots.length === 1 ? slots[0] : undefined);
  return (
    <Popover.Root
      open={open}
      onOpenChange={(open) => {
        setOpen(open);
        setAt(null);
      }}
    >
      <Popover.Trigger
        data-slot="more"
        aria-label={`Say more: ${slots.map(({ slot }) => slot.label).join(", ")}`}
        title="Say more"
        className="ml-1.5 inline-flex h-5 w-5 items-center justify-center rounded-full border border-hairline align-[-2px] text-ink-soft hover:border-moss hover:text-moss"
      >
        <Plus size={13} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label="Say more"
          onOpenAutoFocus={toFilling}
          className={SLOT_POPOVER}
        >
          {one ? (
            <SlotEditor {...rest} slot={one.slot} state={one.state} onDone={() => setOpen(false)} />
          ) : (
            <ul>
              {slots.map(({ slot, state }) => (
                <li key={slot.at}>
                  <button
                    type="button"
                    onClick={() => setAt(slot.at)}
                    className="w-full rounded-md px-2 py-1.5 text-left hover:bg-tint"
                  >
                    <span className="font-medium">{slot.label}</span>
                    <span className="block text-[13px] text-ink-soft">now: {state.text}</span>
                  </button>
                </li>
              ))}
            </ul>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
