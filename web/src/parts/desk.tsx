import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./button";

type Props = {
  title: string;
  width: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  children: ReactNode;
};

/** Work over the page that only ends when it is closed. Not modal to the letter: that would write styles into the page. */
export function Desk({ title, width, open, onOpenChange, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange} modal={false}>
      <Dialog.Portal>
        <div aria-hidden className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          onInteractOutside={(event) => event.preventDefault()}
          className={`fixed left-1/2 top-1/2 z-40 flex max-h-[88vh] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-xl border border-hairline bg-paper p-5 shadow-2xl ${width}`}
        >
          <Dialog.Title className="font-serif text-xl font-semibold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Closes the desk that it stands on. */
export const CloseDesk = () => (
  <Dialog.Close asChild>
    <Button look="quiet">Close</Button>
  </Dialog.Close>
);
