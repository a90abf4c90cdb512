import { Search } from "lucide-react";
import type { ReactNode } from "react";
import { openPalette } from "./command-palette";

/** The top line of a page: where you are, and the way to everything else. */
export function TopLine({ children }: { children: ReactNode }) {
  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-hairline px-5">
      <div className="flex min-w-0 flex-1 items-center gap-2.5 text-ink-soft">{children}</div>
      <button
        type="button"
        onClick={openPalette}
        className="flex h-8 w-60 items-center max-lg:w-32 gap-2 rounded-md border border-hairline bg-sheet px-2.5 text-ink-soft hover:border-moss"
      >
        <Search size={14} aria-hidden />
        <span className="flex-1 text-left">Search or do</span>
        <kbd className="max-lg:hidden rounded border border-hairline bg-paper px-1.5 font-sans text-[12px]">Ctrl K</kbd>
      </button>
    </header>
  );
}

/** A sign between the parts of where you are. */
export const Then = () => <span aria-hidden>›</span>;
