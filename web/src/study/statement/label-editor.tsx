import { useQuery } from "@tanstack/react-query";
import { RadioGroup } from "radix-ui";
import { type Dataset, labelsQuery, type Spec } from "../../api/queries";
import { Option } from "./option";
import { columnsOf, type LabelSlot } from "./words";

type Props = { slot: LabelSlot; spec: Spec; dataset: Dataset; onApply: (value: string) => void };

/** One label of a column. */
export function LabelEditor({ slot, spec, dataset, onApply }: Props) {
  const column = dataset.columns.find((column) => column.name === columnsOf(spec, slot.of)[0]);
  const labels = useQuery(labelsQuery(dataset, column)).data ?? [];
  if (!column) return <p>Choose its column first.</p>;
  return (
    <RadioGroup.Root aria-label={slot.label} value={String(spec.options?.[slot.name] ?? "")} onValueChange={onApply}>
      {labels.map((label) => (
        <Option key={label} value={label} words={label} />
      ))}
    </RadioGroup.Root>
  );
}
