import { useState } from "react";

export type Stretch = { first: number; last: number };

/** Fewest points to look at. */
const LEAST = 8;

/** The stretch of points in sight: all of them until one goes closer. */
export function useStretch(total: number) {
  const [chosen, setChosen] = useState<Stretch | null>(null);
  const all = { first: 0, last: Math.max(0, total - 1) };
  const stretch = chosen && chosen.last <= all.last ? chosen : all;
  const zoom = (factor: number) => {
    const wide = stretch.last - stretch.first + 1;
    const width = Math.round(Math.max(Math.min(LEAST, total), wide * factor));
    if (width >= total) {
      setChosen(null);
      return;
    }
    const middle = (stretch.first + stretch.last) / 2;
    const first = Math.max(0, Math.min(total - width, Math.round(middle - width / 2)));
    setChosen({ first, last: first + width - 1 });
  };
  const move = (share: number) => {
    const width = stretch.last - stretch.first + 1;
    const first = Math.max(0, Math.min(total - width, Math.round(stretch.first + width * share)));
    setChosen({ first, last: first + width - 1 });
  };
  return { stretch, whole: chosen === null || stretch === all, zoom, move };
}
