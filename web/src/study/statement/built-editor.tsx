import type { Spec } from "../../api/queries";
import { Button } from "../../parts/button";
import type { BuiltSlot } from "./words";

type Props = { slot: BuiltSlot; spec: Spec; onSet: (value: unknown) => void };

/** What is built in the figure, told by name; what is one thing as a whole can be taken away here. */
export function BuiltEditor({ slot, spec, onSet }: Props) {
  const given = spec.options?.[slot.name];
  const pieces = Array.isArray(given) ? (given as Record<string, unknown>[]) : undefined;
  const named = pieces?.flatMap(({ name }) => (typeof name === "string" ? [name] : [])) ?? [];
  return (
    <>
      {named.length > 0 && <p className="mb-1.5 font-medium">{named.join(", ")}</p>}
      {slot.choices.length > 0 && given == null && !slot.required && slot.choices[0]?.fields.length === 0 ? (
        <ul className="flex flex-col gap-1">
          {slot.choices.map(({ value, words, use_when }) => (
            <li key={value}>
              <button
                type="button"
                onClick={() => onSet({ goal: value })}
                className="w-full rounded-md px-2 py-1 text-left hover:bg-tint"
              >
                <b className="block">{words}</b>
                <span className="text-[13px] text-ink-soft">{use_when}</span>
              </button>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-ink-soft">Each is added, changed and removed in the figure.</p>
      )}
      {given != null && !pieces && (
        <Button className="mt-2" onClick={() => onSet(null)}>
          Leave it out
        </Button>
      )}
    </>
  );
}
