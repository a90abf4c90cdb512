import { useState } from "react";

type Props = { kinds: string[]; onStore: (counts: Record<string, number>) => void };

/** Kinds of defects, a large button each. */
export function Tally({ kinds, onStore }: Props) {
  const [counts, setCounts] = useState<Record<string, number>>(Object.fromEntries(kinds.map((kind) => [kind, 0])));
  const add = (kind: string, by: number) =>
    setCounts((now) => ({ ...now, [kind]: Math.max(0, (now[kind] ?? 0) + by) }));
  return (
    <section aria-label="Defects" className="flex flex-col gap-4">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-3">
        {kinds.map((kind) => (
          <div key={kind} className="flex overflow-hidden rounded-xl border-2 border-hairline bg-sheet">
            <button
              type="button"
              aria-label={`One more: ${kind}`}
              onClick={() => add(kind, 1)}
              className="min-h-24 flex-1 px-4 text-left text-[22px] active:bg-tint"
            >
              {kind} <b className="float-right text-[34px] leading-8">{counts[kind]}</b>
            </button>
            <button
              type="button"
              aria-label={`One less: ${kind}`}
              disabled={counts[kind] === 0}
              onClick={() => add(kind, -1)}
              className="w-14 border-l-2 border-hairline text-[28px] disabled:opacity-40"
            >
              −
            </button>
          </div>
        ))}
      </div>
      <button
        type="button"
        onClick={() => onStore(counts)}
        className="h-16 self-start rounded-xl bg-moss px-8 text-[22px] font-semibold text-on-moss"
      >
        Store
      </button>
    </section>
  );
}
