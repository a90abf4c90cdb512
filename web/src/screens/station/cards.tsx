import type { Collection } from "../../api/floor";
import { decimalsOf, fixed } from "../../lib/format";
import type { Draft, Step } from "./steps";

type Props = {
  collection: Collection;
  draft: Draft;
  step: Step | undefined;
  decimals: (column: string) => number | null | undefined;
};

/** The pieces of the subgroup, each with what was measured. */
export function Cards({ collection: { plan }, draft, step, decimals }: Props) {
  const words = (column: string, value: number | undefined) =>
    value === undefined ? "·" : fixed(value, Math.max(decimals(column) ?? 0, decimalsOf(value)));
  return (
    <div className="flex gap-3.5">
      {draft.pieces.map((piece, at) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place
          key={at}
          data-here={step?.kind === "value" && step.piece === at}
          className="min-w-0 flex-1 rounded-xl border border-hairline bg-sheet px-2 py-4 text-center data-[here=true]:border-[3px] data-[here=true]:border-moss"
        >
          <div className="text-[18px] text-ink-soft">piece {at + 1}</div>
          {plan.measurements.map(({ column }) => (
            <div key={column} className="truncate text-[clamp(22px,3.4vw,44px)] font-semibold leading-tight">
              {words(column, piece[column])}
            </div>
          ))}
        </div>
      ))}
    </div>
  );
}
