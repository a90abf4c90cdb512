import { type KeyboardEvent, type PointerEvent, useState } from "react";
import type { PanelLayout } from "../../marks/panel-layout";
import type { Cut } from "../../study/statement/words";

type Props = { layout: PanelLayout; cuts: Cut[]; points: number; onMove: (from: number, to: number) => void };

/** Grips on the cuts made by hand: drag them, or move them with the arrow keys. */
export function CutHandles({ layout, cuts, points, onMove }: Props) {
  const [low = 0, high = 0] = layout.x.domain();
  return cuts
    .filter((cut) => cut.first > 0 && cut.first >= low && cut.first <= high)
    .map((cut) => <Handle key={cut.first} layout={layout} cut={cut} points={points} onMove={onMove} />);
}

function Handle({ layout, cut, points, onMove }: Omit<Props, "cuts"> & { cut: Cut }) {
  const [at, setAt] = useState<number | null>(null);
  const { box, x } = layout;
  const place = x((at ?? cut.first) - 0.5);
  const pointOf = (event: PointerEvent<SVGGElement>) => {
    const left = event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0;
    return Math.max(1, Math.min(points - 1, Math.round(x.invert(event.clientX - left) + 0.5)));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const to = cut.first + step;
    if (to > 0 && to < points) onMove(cut.first, to);
  };
  return (
    <g
      role="slider"
      pointerEvents="all"
      tabIndex={0}
      aria-label={`Start of phase ${cut.name ?? ""}`}
      aria-valuemin={2}
      aria-valuemax={points}
      aria-valuenow={cut.first + 1}
      cursor="ew-resize"
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        setAt(cut.first);
      }}
      onPointerMove={(event) => at !== null && setAt(pointOf(event))}
      onPointerUp={(event) => {
        const to = pointOf(event);
        setAt(null);
        if (to !== cut.first) onMove(cut.first, to);
      }}
    >
      <path d={`M${place} ${box.top - 6}V${box.bottom}`} stroke="transparent" strokeWidth="9" />
      {at !== null && <path d={`M${place} ${box.top - 6}V${box.bottom}`} stroke="var(--moss)" strokeWidth="1.5" />}
      <rect x={place - 4} y={box.top - 7} width="8" height="14" rx="3" fill="var(--sheet)" stroke="var(--ink-soft)" />
    </g>
  );
}
