import { useEffect, useRef } from "react";

/** How long the first of two keys is remembered, in milliseconds. */
const PAIR = 1500;

/** Whether typing goes into a field, where single keys are letters. */
const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.matches("input, textarea, select") || target.isContentEditable);

/** Keys of the page by name, such as "[", "g w", "Ctrl k" or "Ctrl Shift z"; outside fields unless said otherwise. */
export function useKeys(map: Record<string, () => void>, inFields = false) {
  const latest = useRef(map);
  latest.current = map;
  useEffect(() => {
    let before = { key: "", at: 0 };
    const pressed = (event: KeyboardEvent) => {
      // Some keyboards have "[" and "/" on the third level only, which looks like Ctrl and Alt.
      const third = event.getModifierState("AltGraph");
      if ((event.altKey && !third) || (!inFields && isTyping(event.target))) return;
      const ctrl = !third && (event.ctrlKey || event.metaKey);
      const key = ctrl ? `Ctrl ${event.shiftKey ? "Shift " : ""}${event.key.toLowerCase()}` : event.key;
      const pair = event.timeStamp - before.at < PAIR ? latest.current[`${before.key} ${key}`] : undefined;
      before = { key: pair ? "" : key, at: event.timeStamp };
      const does = pair ?? latest.current[key];
      if (!does) return;
      event.preventDefault();
      does();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [inFields]);
}
