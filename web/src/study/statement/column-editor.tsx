import { RadioGroup } from "radix-ui";
import type { Dataset, Spec } from "../../api/queries";
import { kindWords } from "../../lib/format";
import { Option } from "./option";
import type { ColumnSlot } from "./words";

type Props = { slot: ColumnSlot; spec: Spec; dataset: Dataset; onApply: (value: string | null) => void };

const NONE = "\u0000none";

/** Which column plays the role. */
export function ColumnEditor({ slot, spec, dataset, onApply }: Props) {
  const fits = dataset.columns.filter((column) => slot.kinds.includes(column.kind));
  const current = spec.roles?.[slot.name];
  if (fits.length === 0 && slot.required) {
    return <p>No column of this dataset fits. Change the kind of one on the Data page.</p>;
  }
  return (
    <RadioGroup.Root
      aria-label={slot.label}
      value={typeof current === "string" ? current : NONE}
      onValueChange={(value) => onApply(value === NONE ? null : value)}
    >
      {!slot.required && <Option value={NONE} words={slot.empty} />}
      {fits.map((column) => (
        <Option
          key={column.id}
          value={column.name}
          words={column.name}
          hint={[kindWords[column.kind], column.unit].filter(Boolean).join(", ")}
        />
      ))}
    </RadioGroup.Root>
  );
}
