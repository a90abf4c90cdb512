import { Popover } from "radix-ui";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import type { Dataset, Spec } from "../../api/queries";
import { SLOT_POPOVER, SlotEditor, toFilling } from "./slot";
import { type Card, type ColumnSlot, columnsOf, type SlotState, withSlot } from "./words";

type Props = {
  slot: ColumnSlot;
  state: SlotState;
  card: Card;
  spec: Spec;
  dataset: Dataset;
  onChange: (change: (spec: Spec) => Spec) => void;
};

/** A shorter drag is a click. */
const DRAG_LEAST = 6;

/** A list with one of its entries at another place. */
export function moved(names: string[], from: number, to: number): string[] {
  const rest = names.filter((_, place) => place !== from);
  const name = names[from];
  return name === undefined ? names : [...rest.slice(0, to), name, ...rest.slice(to)];
}

/** Columns whose order matters: each is dragged to its place, or moved there with Alt and the arrows. */
export function OrderedSlot(props: Props) {
  const { slot, spec, onChange } = props;
  const names = columnsOf(spec, slot.name);
  const [open, setOpen] = useState(false);
  const [drag, setDrag] = useState<{ from: number; x: number; to: number; far: boolean } | null>(null);
  const chips = useRef<(HTMLButtonElement | null)[]>([]);
  // What was moved by key keeps the focus, which it loses while it changes places.
  const movedName = useRef<string | null>(null);
  const order = names.join("\n");
  useEffect(() => {
    const place = order.split("\n").indexOf(movedName.current ?? "\n");
    if (place >= 0) chips.current[place]?.focus();
    movedName.current = null;
  }, [order]);
  const shown = drag?.far ? moved(names, drag.from, drag.to) : names;
  const apply = (order: string[]) => onChange((spec) => withSlot(spec, slot, order));
  const placeAt = (event: PointerEvent) => {
    const middles = chips.current.slice(0, names.length).map((chip) => {
      const box = chip?.getBoundingClientRect();
      return box ? { x: (box.left + box.right) / 2, top: box.top, bottom: box.bottom } : { x: 0, top: 0, bottom: 0 };
    });
    const others = middles.filter((_, place) => shown[place] !== names[drag?.from ?? -1]);
    // A statement may go over two lines: what stands on a line above comes before.
    return others.filter(({ x, bottom, top }) => event.clientY > bottom || (event.clientY >= top && event.clientX > x))
      .length;
  };
  const onKeyDown = (event: KeyboardEvent, place: number) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!step || !event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const to = place + step;
    if (to < 0 || to >= names.length) return;
    movedName.current = names[place] ?? null;
    apply(moved(names, place, to));
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <span>
          {shown.map((name, place) => (
            <span key={name} className="whitespace-nowrap">
              {place > 0 && <span aria-hidden> › </span>}
              <button
                type="button"
                ref={(chip) => {
                  chips.current[place] = chip;
                }}
                data-slot={place === 0 ? slot.at : `${slot.at} ${place}`}
                aria-haspopup="dialog"
                aria-expanded={open}
                aria-label={`${slot.label}: ${name}, number ${place + 1} of ${names.length}`}
                aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight"
                title="Drag to another place, or press Alt and an arrow"
                onKeyDown={(event) => onKeyDown(event, place)}
                onClick={(event) => {
                  // A pointer opens on release; this is Enter or a screen reader.
                  if (event.detail === 0) setOpen(true);
                }}
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId);
                  setDrag({ from: place, x: event.clientX, to: place, far: false });
                }}
                onPointerMove={(event) => {
                  if (!drag) return;
                  const far = drag.far || Math.abs(event.clientX - drag.x) >= DRAG_LEAST;
                  setDrag({ ...drag, far, to: far ? placeAt(event) : drag.to });
                }}
                onPointerUp={() => {
                  if (drag?.far && drag.to !== drag.from) apply(moved(names, drag.from, drag.to));
                  else if (drag && !drag.far) setOpen(true);
                  setDrag(null);
                }}
                onPointerCancel={() => setDrag(null)}
                className={`touch-none cursor-grab border-b-2 border-dotted border-ink-soft font-semibold leading-[1.1] text-ink hover:bg-tint ${
                  drag?.far && names[drag.from] === name ? "cursor-grabbing bg-tint text-moss" : ""
                }`}
              >
                {name}
              </button>
            </span>
          ))}
        </span>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label={slot.label}
          onOpenAutoFocus={toFilling}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            chips.current[0]?.focus();
          }}
          className={SLOT_POPOVER}
        >
          <SlotEditor {...props} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
