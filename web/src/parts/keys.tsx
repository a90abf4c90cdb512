import { useNavigate } from "@tanstack/react-router";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useKeys } from "../lib/use-keys";
import { openPalette } from "./command-palette";

const LIST = [
  ["Ctrl K", "search or do"],
  ["/", "search"],
  ["g w", "go to the Wall"],
  ["g d", "go to Data"],
  ["g a", "go to Ask"],
  ["g g", "go to Gauges"],
  ["Ctrl Z", "undo the last change of this dataset or study"],
  ["Ctrl Y", "redo what was undone last"],
  ["[ ]", "previous and next signal of a chart"],
  ["Shift ← →", "choose a stretch in a figure"],
  ["← →", "from slot to slot in a statement, from point to point in a figure"],
  ["?", "this list"],
] as const;

/** Keys that work everywhere, and their list. */
export function Keys() {
  const navigate = useNavigate();
  const [listed, setListed] = useState(false);
  useKeys({
    "g w": () => navigate({ to: "/" }),
    "g d": () => navigate({ to: "/data" }),
    "g a": () => navigate({ to: "/ask" }),
    "g g": () => navigate({ to: "/gauges" }),
    "?": () => setListed(true),
    "/": openPalette,
  });
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

export type UndoDirection = "undo" | "redo";

/** Calls back on Ctrl Z, and on Ctrl Shift Z or Ctrl Y, outside a field. */
export const useTurnKeys = (turn: (way: UndoDirection) => void) =>
  useKeys({ "Ctrl z": () => turn("undo"), "Ctrl Shift z": () => turn("redo"), "Ctrl y": () => turn("redo") });
