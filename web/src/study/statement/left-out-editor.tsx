import type { Spec } from "../../api/queries";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { type LeftOutSlot, leftOutOf } from "./words";

type Props = { slot: LeftOutSlot; spec: Spec; onSet: (value: unknown) => void };

/** Rows that are left out with their reasons, each of which can be taken back. */
export function LeftOutEditor({ slot, spec, onSet }: Props) {
  const all = leftOutOf(slot, spec);
  if (all.length === 0) {
    return <p className="text-ink-soft">Drag a box over points in the figure to leave them out, with a reason.</p>;
  }
  return (
    <ul>
      {all.map(({ rows, why }, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a reason may come twice
        <li key={place} className="flex items-center gap-2 rounded-md px-2 py-1.5">
          <span className="min-w-0 flex-1">
            {why}
            <span className="block text-[13px] text-ink-soft">
              {counted(
                rows.reduce((sum, [first, last]) => sum + last - first + 1, 0),
                "row",
                "rows",
              )}
            </span>
          </span>
          <Button
            look="quiet"
            onClick={() => onSet(all.length === 1 ? null : all.filter((_, other) => other !== place))}
          >
            Take back
          </Button>
        </li>
      ))}
    </ul>
  );
}
