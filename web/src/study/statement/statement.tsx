import { Plus } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, useRef, useState } from "react";
import type { Dataset, Spec } from "../../api/queries";
import { OrderedSlot } from "./ordered-slot";
import { SLOT_POPOVER, SlotButton, SlotEditor, toFilling } from "./slot";
import { type Card, columnsOf, quietSlots, type Slot, slotWords, statementParts } from "./words";

type Props = {
  card: Card;
  spec: Spec;
  dataset: Dataset;
  /** Applies a change to the statement at once. */
  onChange: (change: (spec: Spec) => Spec) => void;
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
  const more = quietSlots(card, spec);
  return (
    <p ref={line} onKeyDown={onKeyDown} className="font-serif text-[20px] leading-[31px] text-ink-soft">
      {statementParts(card, spec).map((part, index) =>
        typeof part === "string" ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: text has no name of its own
          <span key={`text ${index}`}>{part}</span>
        ) : part.kind === "column" && part.ordered && columnsOf(spec, part.name).length > 0 ? (
          <OrderedSlot key={part.at} slot={part} card={card} spec={spec} dataset={dataset} onChange={onChange} />
        ) : (
          <SlotButton key={part.at} slot={part} card={card} spec={spec} dataset={dataset} onChange={onChange} />
        ),
      )}
      {more.length > 0 && <More slots={more} card={card} spec={spec} dataset={dataset} onChange={onChange} />}
    </p>
  );
}

/** What the statement can say besides; chosen here, it joins the sentence. */
function More({ slots, ...rest }: Props & { slots: Slot[] }) {
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState<string | null>(null);
  const slot = slots.find((slot) => slot.at === at) ?? (slots.length === 1 ? slots[0] : undefined);
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
        aria-label={`Say more: ${slots.map((slot) => slot.label).join(", ")}`}
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
          {slot ? (
            <SlotEditor {...rest} slot={slot} onDone={() => setOpen(false)} />
          ) : (
            <ul>
              {slots.map((slot) => (
                <li key={slot.at}>
                  <button
                    type="button"
                    onClick={() => setAt(slot.at)}
                    className="w-full rounded-md px-2 py-1.5 text-left hover:bg-tint"
                  >
                    <span className="font-medium">{slot.label}</span>
                    <span className="block text-[13px] text-ink-soft">now: {slotWords(slot, rest.spec).text}</span>
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
