import { X } from "lucide-react";
import { useState } from "react";
import { counted } from "../../lib/format";

export type Chosen = { rows: number[]; left: number; top: number };
type Props = {
  chosen: Chosen;
  onOpen: (rows: number[]) => void;
  onLeaveOut: (rows: number[], why: string) => void;
  onClear: () => void;
};

const ACTION = "rounded-md px-2 py-1 text-left hover:bg-tint";

/** What can be done with the points of a box, or with one that was reached by key. */
export function BoxMenu({ chosen: { rows, left, top }, onOpen, onLeaveOut, onClear }: Props) {
  const [asks, setAsks] = useState(false);
  const words = counted(rows.length, "point", "points");
  return (
    <section
      aria-label={words}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") onClear();
      }}
      onPointerDown={(event) => event.stopPropagation()}
      className="absolute z-20 w-64 rounded-lg border border-hairline bg-sheet p-1.5 shadow-xl"
      style={{ left, top }}
    >
      <header className="flex items-center px-2 py-1 text-[13px] font-semibold text-ink-soft">
        <span className="flex-1">{words}</span>
        <button type="button" aria-label="Let go" onClick={onClear}>
          <X size={14} aria-hidden />
        </button>
      </header>
      {asks ? (
        <form
          className="flex gap-1.5 p-1"
          onSubmit={(event) => {
            event.preventDefault();
            const why = String(new FormData(event.currentTarget).get("why") ?? "").trim();
            if (why) onLeaveOut(rows, why);
          }}
        >
          <input
            name="why"
            required
            // biome-ignore lint/a11y/noAutofocus: the field was asked for just now
            autoFocus
            aria-label="Why they are left out"
            placeholder="why, such as: sensor loose"
            className="h-8 min-w-0 flex-1 rounded-md border border-hairline bg-paper px-2"
          />
          <button type="submit" className="rounded-md bg-moss px-2.5 text-on-moss">
            Leave out
          </button>
        </form>
      ) : (
        <div className="flex flex-col">
          {/* biome-ignore lint/a11y/noAutofocus: the menu was asked for just now */}
          <button type="button" autoFocus className={ACTION} onClick={() => onOpen(rows)}>
            {rows.length === 1 ? "Open its row" : "Open their rows"}
          </button>
          <button type="button" className={ACTION} onClick={() => setAsks(true)}>
            Leave {rows.length === 1 ? "it" : "them"} out, with a reason…
          </button>
        </div>
      )}
    </section>
  );
}
