import { useNavigate } from "@tanstack/react-router";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { openPalette } from "./command-palette";

const LIST = [
  ["Ctrl K", "search or do"],
  ["/", "search"],
  ["g w", "go to the Wall"],
  ["g d", "go to Data"],
  ["g a", "go to Ask"],
  ["Ctrl Z", "undo the last change of this dataset or study"],
  ["Ctrl Y", "redo what was undone last"],
  ["[ ]", "previous and next signal of a chart"],
  ["Shift ← →", "choose a stretch in a figure"],
  ["← →", "from slot to slot in a statement, from point to point in a figure"],
  ["?", "this list"],
] as const;

const PLACES = { w: "/", d: "/data", a: "/ask" } as const;

/** Whether typing goes into a field, where single keys are letters. */
export function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.matches("input, textarea, select") || target.isContentEditable);
}

/** Keys that work everywhere, and their list. */
export function Keys() {
  const navigate = useNavigate();
  const [listed, setListed] = useState(false);
  const afterG = useRef(0);
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const place = PLACES[event.key as keyof typeof PLACES];
      if (place && performance.now() - afterG.current < 1500) {
        afterG.current = 0;
        navigate({ to: place });
        return;
      }
      if (event.key === "g") afterG.current = performance.now();
      if (event.key === "?") setListed(true);
      if (event.key === "/") {
        event.preventDefault();
        openPalette();
      }
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [navigate]);
  return (
    <Dialog.Root open={listed} onOpenChange={setListed} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-24 z-40 w-[440px] -translate-x-1/2 rounded-xl border border-hairline bg-sheet p-5 shadow-2xl"
        >
          <Dialog.Title className="font-serif text-xl">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[80px_1fr] gap-y-1.5">
            {LIST.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="font-semibold">{key}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

export type Turn = "undo" | "redo";

/** Calls back on Ctrl Z, and on Ctrl Shift Z or Ctrl Y, outside a field. */
export function useTurnKeys(turn: (way: Turn) => void) {
  const latest = useRef(turn);
  latest.current = turn;
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      if (!["z", "y"].includes(key) || !(event.ctrlKey || event.metaKey) || isTyping(event.target)) return;
      event.preventDefault();
      latest.current(key === "y" || event.shiftKey ? "redo" : "undo");
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, []);
}
