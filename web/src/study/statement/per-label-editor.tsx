import { useQuery } from "@tanstack/react-query";
import { type Dataset, labelsQuery, type Spec } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { useDraft } from "../../lib/use-draft";
import { columnsOf, type PerLabelSlot } from "./words";

type Props = {
  slot: PerLabelSlot;
  spec: Spec;
  dataset: Dataset;
  onSet: (value: Record<string, number> | null) => void;
};

/** A number for each label of a column, kept as soon as a field is left. */
export function PerLabelEditor({ slot, spec, dataset, onSet }: Props) {
  const column = dataset.columns.find((column) => column.name === columnsOf(spec, slot.of)[0]);
  const labels = useQuery(labelsQuery(dataset, column)).data ?? [];
  const given = (spec.options?.[slot.name] ?? {}) as Record<string, number>;
  const keep = (label: string, value: number | null) => {
    const { [label]: _, ...others } = given;
    const next = value === null ? others : { ...others, [label]: value };
    onSet(Object.keys(next).length === 0 ? null : next);
  };
  return (
    <ul>
      {labels.map((label) => (
        <li key={label}>
          <LabelField label={label} value={given[label]} onKeep={(value) => keep(label, value)} />
        </li>
      ))}
    </ul>
  );
}

type FieldProps = { label: string; value: number | undefined; onKeep: (value: number | null) => void };

function LabelField({ label, value, onKeep }: FieldProps) {
  const keep = (text: string) => {
    const typed = typedNumber(text);
    if (typed !== undefined) onKeep(typed);
  };
  const field = useDraft(String(value ?? ""), keep, { fits: (text) => typedNumber(text) !== undefined });
  return (
    <label className="flex items-center gap-3 py-1">
      <span className="flex-1">{label}</span>
      <input
        inputMode="decimal"
        {...field}
        className="h-8 w-28 rounded-md border border-hairline bg-paper px-2 text-right aria-invalid:border-clay"
      />
    </label>
  );
}
