import type { KeyboardEvent, ReactNode } from "react";

type Props = {
  /** What is gone through. */
  label: string;
  /** How many items there are. */
  count: number;
  /** The item that is reached, from 0; null for none. */
  at: number | null;
  onAt: (at: number | null) => void;
  /** How far each key goes. */
  steps: Record<string, number>;
  /** The item in words, or all of them while none is reached. */
  words: string;
  onEnter: (at: number) => void;
  vertical?: boolean;
  className?: string;
  children: ReactNode;
};

/** A figure whose items are gone through by key: the arrows stop at its ends, longer steps go as far as there are items. */
export function Stepped({ label, count, at, onAt, steps, words, onEnter, vertical, className, children }: Props) {
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Escape") onAt(null);
    if (event.key === "Enter" && at !== null) {
      // The same key would press the first thing on what opens.
      event.preventDefault();
      onEnter(at);
    }
    const step = steps[event.key];
    if (!step || count === 0) return;
    event.preventDefault();
    if (at === null) return onAt(step > 0 ? 0 : count - 1);
    const next = at + step;
    if (next >= 0 && next < count) onAt(next);
    else if (event.key.startsWith("Page")) onAt(next < 0 ? 0 : count - 1);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-orientation={vertical ? "vertical" : undefined}
      aria-label={label}
      aria-valuemin={1}
      aria-valuemax={Math.max(1, count)}
      aria-valuenow={(at ?? 0) + 1}
      aria-valuetext={words}
      onKeyDown={onKeyDown}
      onBlur={() => onAt(null)}
      className={`h-full rounded-xl ${className ?? ""}`}
    >
      {children}
    </div>
  );
}
