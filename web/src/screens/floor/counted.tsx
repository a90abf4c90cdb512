import type { Plan } from "../../api/floor";
import type { Dataset } from "../../api/queries";
import { isNumeric } from "../../lib/format";
import { Column, Lines, Part } from "./form-parts";

type Props = { plan: Plan; dataset: Dataset | undefined; set: (part: Partial<Plan>) => void };

/** What is counted at each entry. */
export function Counted({ plan: { counts }, dataset, set }: Props) {
  const numbers = dataset?.columns.filter(({ kind }) => isNumeric(kind)).map(({ name }) => name);
  return (
    <Part title="What is counted">
      <div className="flex flex-wrap items-end gap-3">
        <Column
          label="inspected"
          value={counts.inspected ?? ""}
          among={numbers}
          onChange={(inspected) => set({ counts: { ...counts, inspected: inspected || null } })}
        />
        <Column
          label="defectives"
          value={counts.defectives ?? ""}
          among={numbers}
          onChange={(defectives) => set({ counts: { ...counts, defectives: defectives || null } })}
        />
        <Lines
          label="kinds of defects, a line each"
          lines={counts.defects}
          onChange={(defects) => set({ counts: { ...counts, defects } })}
        />
      </div>
    </Part>
  );
}
