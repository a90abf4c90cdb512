import type { Waiting } from "./queue";

type Props = { entries: Waiting[]; onDrop: (number: number) => void };

/** Entries that the service refused, with what was entered: nothing that was typed is lost before somebody has read it. */
export function Refused({ entries, onDrop }: Props) {
  if (entries.length === 0) return null;
  return (
    <section role="alert" aria-label="Refused" className="flex flex-col gap-3">
      {entries.map(({ number, entry, refused = "" }) => (
        <div
          key={number}
          className="flex flex-wrap items-center gap-4 rounded-xl border-2 border-clay bg-sheet p-4 text-[20px]"
        >
          <p className="flex-1">
            <b className="text-clay">The entry of {entry.time.slice(11, 16)} was not stored:</b> {refused}.
            <span className="block">{valuesOf(entry)}</span>
          </p>
          <button
            type="button"
            onClick={() => onDrop(number)}
            className="h-14 rounded-xl border-2 border-hairline px-6"
          >
            I have read it
          </button>
        </div>
      ))}
    </section>
  );
}

const valuesOf = ({ pieces = [], counts = {} }: Waiting["entry"]) =>
  [
    ...pieces.map((piece) => Object.values(piece).join(" / ")),
    ...Object.entries(counts).map(([column, count]) => `${column} ${count}`),
  ].join(", ");
