import { useState } from "react";
import type { Stretch } from "./figure";

/** Fewest points to look at. */
const LEAST = 8;

/** The stretch of points in sight: all of them until one goes closer. */
export function useStretch(total: number) {
  const [chosen, setChosen] = useState<Stretch | null>(null);
  const all = { first: 0, last: Math.max(0, total - 1) };
  const stretch = chosen && chosen.last <= all.last ? chosen : all;
  const show = (first: number, width: number) => {
    const wide = Math.max(Math.min(LEAST, total), width);
    const from = Math.max(0, Math.min(total - wide, Math.round(first)));
    setChosen(wide >= total ? null : { first: from, last: from + wide - 1 });
  };
  const width = stretch.last - stretch.first + 1;
  const zoom = (factor: number) => {
    const wide = Math.round(width * factor);
    show((stretch.first + stretch.last) / 2 - wide / 2 + 0.5, wide);
  };
  const move = (share: number) => show(stretch.first + width * share, width);
  const closer = ({ first, last }: Stretch) => show(first, last - first + 1);
  /** Moves so that a stretch is in sight. */
  const reveal = ({ first, last }: Stretch) => {
    if (first < stretch.first || last > stretch.last)
      show((first + last) / 2 - width / 2, Math.max(width, last - first + 1));
  };
  return { stretch, whole: chosen === null || stretch === all, zoom, move, closer, reveal };
}
