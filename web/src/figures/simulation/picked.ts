import { useState } from "react";
import type { Picked } from "./model";

/** What is on the desk of the page in sight: kept while the picture gives way to the list of pieces and comes back. */
let kept: { page: string; picked: Picked | null } = { page: "", picked: null };

export function usePicked() {
  const page = window.location.pathname;
  const [picked, setPicked] = useState(kept.page === page ? kept.picked : null);
  const pick = (next: Picked | null) => {
    kept = { page, picked: next };
    setPicked(next);
  };
  return [picked, pick] as const;
}
