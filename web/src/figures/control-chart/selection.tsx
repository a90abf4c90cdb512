import { X } from "lucide-react";
import { useState } from "react";
import type { PanelLayout } from "../../marks/panel-layout";

export type Stretch = { first: number; last: number };

export type StretchActions = {
  onCloser: (stretch: Stretch) => void;
  onLimitsFrom: (stretch: Stretch) => void;
  onPhaseFrom: (first: number, name: string) => void;
  onOpenRows: (stretch: Stretch) => void;
};

type Props = StretchActions & { stretch: Stretch; layout: PanelLayout; many: string; onClear: () => void };

const ACTION = "rounded-md px-2 py-1 text-left hover:bg-tint";

/** The stretch that was dragged over, as a band in every panel. */
export function Band({ stretch, layout }: { stretch: Stretch; layout: PanelLayout }) {
  const { box, x } = layout;
  const left = Math.max(box.left, x(stretch.first - 0.5));
  const right = Math.min(box.right, x(stretch.last + 0.5));
  if (right <= left) return null;
  return (
    <rect
      data-export="no"
      x={left}
      width={right - left}
      y={box.top}
      height={box.bottom - box.top}
      fill="var(--moss)"
      fillOpacity="0.12"
      stroke="var(--moss)"
      strokeOpacity="0.5"
      pointerEvents="none"
    />
  );
}

/** What can be done with a stretch, beside it. */
export function StretchMenu(props: Props) {
  const { stretch, layout, many, onClear, onCloser, onLimitsFrom, onPhaseFrom, onOpenRows } = props;
  const [naming, setNaming] = useState(false);
  const { first, last } = stretch;
  const middle = (layout.x(first) + layout.x(last)) / 2;
  const wide = layout.box.right + 60;
  const left = Math.max(8, Math.min(wide - 240, middle - 120));
  const done = (work: () => void) => () => {
    work();
    onClear();
  };
  return (
    <section
      aria-label={`${many} ${first + 1} to ${last + 1}`}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") onClear();
      }}
      className="absolute z-20 w-60 rounded-lg border border-hairline bg-sheet p-1.5 shadow-xl"
      style={{ left, top: layout.box.top + 10 }}
    >
      <header className="flex items-center px-2 py-1 text-[13px] font-semibold text-ink-soft">
        <span className="flex-1 first-letter:uppercase">
          {many} {first + 1} to {last + 1}
        </span>
        <button type="button" aria-label="Let go" onClick={onClear}>
          <X size={14} aria-hidden />
        </button>
      </header>
      {naming ? (
        <form
          className="flex gap-1.5 p-1"
          onSubmit={(event) => {
            event.preventDefault();
            const name = new FormData(event.currentTarget).get("name");
            done(() => onPhaseFrom(first, String(name ?? "").trim()))();
          }}
        >
          <input
            name="name"
            // biome-ignore lint/a11y/noAutofocus: the field was asked for just now
            autoFocus
            aria-label="Name of the new phase"
            placeholder="name of the phase"
            className="h-8 min-w-0 flex-1 rounded-md border border-hairline bg-paper px-2"
          />
          <button type="submit" className="rounded-md bg-moss px-2.5 text-on-moss">
            Cut
          </button>
        </form>
      ) : (
        <div className="flex flex-col">
          <button type="button" className={ACTION} onClick={done(() => onLimitsFrom(stretch))}>
            Take the limits from these
          </button>
          <button type="button" className={ACTION} onClick={done(() => onCloser(stretch))}>
            Go closer
          </button>
          {first > 0 && (
            <button type="button" className={ACTION} onClick={() => setNaming(true)}>
              Start a phase at {first + 1}…
            </button>
          )}
          <button type="button" className={ACTION} onClick={done(() => onOpenRows(stretch))}>
            Open their rows
          </button>
        </div>
      )}
    </section>
  );
}
