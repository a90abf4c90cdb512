import type { Spec } from "../../api/queries";
import { onlyWords } from "../../lib/only";

type Props = { spec: Spec; onChange: (change: (spec: Spec) => Spec) => void };

/** A question without the steps from one on; the column of that step takes the role again that it had before. */
export function backTo(spec: Spec, step: number): Spec {
  const only = spec.only ?? [];
  const first = only[step];
  const roles = first && "column" in first && first.role ? { ...spec.roles, [first.role]: first.column } : spec.roles;
  return { ...spec, roles, only: only.slice(0, step) };
}

/** The steps by which a question is narrowed, each of which can be gone back to. */
export function Trail({ spec, onChange }: Props) {
  const only = spec.only ?? [];
  if (only.length === 0) return null;
  const steps = ["all rows", ...only.map(onlyWords)];
  return (
    <nav aria-label="Narrowed to" className="flex flex-wrap items-center gap-x-2 text-[14px]">
      {steps.map((step, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step may come twice
        <span key={place} className="flex items-center gap-2">
          {place > 0 && (
            <span aria-hidden className="text-ink-soft">
              ›
            </span>
          )}
          {place < only.length ? (
            <button
              type="button"
              onClick={() => onChange((spec) => backTo(spec, place))}
              className="rounded-md px-1 font-medium text-moss underline decoration-dotted underline-offset-4 hover:bg-tint"
            >
              {step}
            </button>
          ) : (
            <span aria-current="step" className="font-semibold">
              {step}
            </span>
          )}
        </span>
      ))}
    </nav>
  );
}
