import { X } from "lucide-react";
import type { Spec } from "../../api/queries";
import { type Cut, cutsOf } from "./words";

type Props = { spec: Spec; onChange: (cuts: Cut[] | null) => void };

/** The phases cut by hand: their names, and a way to take a cut back. */
export function CutsEditor({ spec, onChange }: Props) {
  const cuts = cutsOf(spec);
  const named = cuts.some((cut) => cut.first === 0) ? cuts : [{ first: 0 }, ...cuts];
  const apply = (next: Cut[]) => {
    const kept = next.filter((cut) => cut.first > 0 || cut.name);
    onChange(kept.some((cut) => cut.first > 0) ? kept : null);
  };
  return (
    <ul className="flex flex-col gap-2">
      {named.map((cut) => (
        <li key={cut.first} className="flex items-center gap-2">
          <span className="w-20 shrink-0 text-[13px] text-ink-soft">from {cut.first + 1}</span>
          <input
            aria-label={`Name of the phase from ${cut.first + 1}`}
            defaultValue={cut.name ?? ""}
            placeholder="name of the phase"
            onBlur={(event) => {
              const name = event.target.value.trim();
              if (name !== (cut.name ?? "")) apply(named.map((other) => (other === cut ? { ...cut, name } : other)));
            }}
            onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
            className="h-8 min-w-0 flex-1 rounded-md border border-hairline bg-paper px-2"
          />
          {cut.first > 0 ? (
            <button
              type="button"
              aria-label={`Take back the cut at ${cut.first + 1}`}
              onClick={() => apply(named.filter((other) => other !== cut))}
              className="p-1 text-ink-soft hover:text-clay"
            >
              <X size={15} aria-hidden />
            </button>
          ) : (
            <span className="w-[23px]" />
          )}
        </li>
      ))}
    </ul>
  );
}
