import type { Column, Dataset } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { SavedField } from "../../parts/saved-field";
import { useColumnChange } from "../../parts/use-column-change";

type Props = { column: Column; dataset: Dataset };

/** The limits of a column, changed where they live: every study that reads them follows. */
export function LimitsEditor({ column, dataset }: Props) {
  const { save, problem } = useColumnChange(dataset, column);
  const number = (key: "lsl" | "target" | "usl", label: string) => (
    <SavedField
      label={label}
      value={column[key] == null ? "" : String(column[key])}
      numeric
      onSave={(text) => save({ [key]: typedNumber(text) })}
    />
  );
  return (
    <div className="flex flex-col gap-1.5">
      {number("usl", "USL")}
      {number("target", "target")}
      {number("lsl", "LSL")}
      {problem && (
        <p role="alert" className="text-clay">
          {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
        </p>
      )}
      <p className="mt-1 text-[13px] text-ink-soft">
        They belong to the column {column.name}
        {column.unit ? ` (${column.unit})` : ""}: every study and the Wall follow, and its history says who changed
        them. Leave a side empty when there is no limit.
      </p>
    </div>
  );
}
