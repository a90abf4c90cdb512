import type { ComponentType } from "react";

const SKETCHES = import.meta.glob<{ default: ComponentType }>("../../figures/*/sketch.tsx", { eager: true });

/** A small drawing of the figure that answers a question. */
export function QuestionDrawing({ method }: { method: string }) {
  const Sketch = SKETCHES[`../../figures/${method}/sketch.tsx`]?.default;
  return (
    <svg viewBox="0 0 104 96" aria-hidden="true" className="h-[66px] w-[72px] shrink-0 rounded-lg bg-paper">
      {Sketch && <Sketch />}
    </svg>
  );
}
