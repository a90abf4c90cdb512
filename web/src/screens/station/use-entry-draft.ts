import { useEffect, useState } from "react";
import type { Plan } from "../../api/floor";
import { begun, carried, type Draft } from "./steps";

/** What is being entered at a station: kept over a reload of the page, and over a new version of the plan as far as that still asks for it. */
export function useEntryDraft(station: number, plan: Plan) {
  const key = `station ${station}`;
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = sessionStorage.getItem(key);
    return kept ? carried(plan, JSON.parse(kept)) : begun(plan);
  });
  const [followed, setFollowed] = useState(plan);
  if (followed !== plan) {
    setFollowed(plan);
    setDraft(carried(plan, draft));
  }
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(draft)), [key, draft]);
  return [draft, setDraft] as const;
}
