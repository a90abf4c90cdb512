import { useQuery } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { type ReactElement, useMemo } from "react";
import { glossaryQuery } from "../api/queries";
import { type Entry, termFinder } from "../lib/terms";

const finders = new WeakMap<Entry[], Record<"text" | "head", ReturnType<typeof termFinder>>>();

function findersOf(entries: Entry[]) {
  const known = finders.get(entries) ?? { text: termFinder(entries, false), head: termFinder(entries, true) };
  finders.set(entries, known);
  return known;
}

const NONE: Entry[] = [];

/** Words whose terms tell what they mean when they are pointed at or focused. */
export function Explained({ children: text, head }: { children: string; head?: boolean }) {
  const entries = useQuery(glossaryQuery).data ?? NONE;
  const parts = useMemo(() => findersOf(entries)[head ? "head" : "text"](text), [entries, head, text]);
  return parts.map(({ text, entry }, place) =>
    // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a text are in its order
    entry ? <Term key={place} text={text} entry={entry} /> : <span key={place}>{text}</span>,
  );
}

/** A control that tells what the term in its words means. */
export function WithMeaning({ words, children }: { words: string; children: ReactElement }) {
  const entries = useQuery(glossaryQuery).data ?? NONE;
  const entry = useMemo(
    () =>
      findersOf(entries)
        .head(words)
        .find((part) => part.entry)?.entry,
    [entries, words],
  );
  return entry ? <Meaning entry={entry}>{children}</Meaning> : children;
}

function Term({ text, entry }: { text: string; entry: Entry }) {
  return (
    <Meaning entry={entry}>
      <dfn
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what it means is told on focus too
        tabIndex={0}
        className="cursor-help rounded-sm not-italic underline decoration-hairline decoration-dotted decoration-2 underline-offset-[3px] hover:decoration-moss"
      >
        {text}
      </dfn>
    </Meaning>
  );
}

/** Tells what a term means when what it is about is pointed at or focused. */
function Meaning({ entry, children }: { entry: Entry; children: ReactElement }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          collisionPadding={12}
          sideOffset={5}
          className="z-50 w-80 rounded-xl border border-hairline bg-sheet p-3 text-left font-sans text-[15px] font-normal leading-normal text-ink shadow-xl"
        >
          <p className="font-semibold">{entry.name}</p>
          <p className="mt-1">{entry.meaning}</p>
          {entry.formula && <p className="mt-1 text-[13px]">{entry.formula}</p>}
          <p className="mt-1 text-[13px] text-ink-soft">{entry.source}</p>
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
