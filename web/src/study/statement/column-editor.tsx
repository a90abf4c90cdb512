import { Check } from "lucide-react";
import { Checkbox, RadioGroup } from "radix-ui";
import { useId } from "react";
import type { Column, Dataset, Spec } from "../../api/queries";
import { kindWords } from "../../lib/format";
import { Option } from "./option";
import { type ColumnSlot, columnsOf } from "./words";

type Props = {
  slot: ColumnSlot;
  spec: Spec;
  dataset: Dataset;
  /** Applies and closes. */
  onApply: (value: string | null) => void;
  /** Applies and stays open. */
  onSet: (value: string | string[] | null) => void;
};

const NONE = "\u0000none";
const hint = (column: Column) => [kindWords[column.kind], column.unit].filter(Boolean).join(", ");

/** Which column plays the role, or which ones side by side. */
export function ColumnEditor({ slot, spec, dataset, onApply, onSet }: Props) {
  const fits = dataset.columns.filter((column) => slot.kinds.includes(column.kind));
  const current = columnsOf(spec, slot.name);
  if (fits.length === 0 && slot.required) {
    return <p>No column of this dataset fits. Change the kind of one on the Data page.</p>;
  }
  if (slot.most > 1) {
    return (
      <Several
        columns={fits}
        current={current}
        hint={slot.several}
        most={slot.most}
        ordered={slot.ordered}
        onSet={onSet}
      />
    );
  }
  return (
    <RadioGroup.Root
      aria-label={slot.label}
      value={current[0] ?? NONE}
      onValueChange={(value) => onApply(value === NONE ? null : value)}
    >
      {!slot.required && <Option value={NONE} words={slot.empty} />}
      {fits.map((column) => (
        <Option key={column.id} value={column.name} words={column.name} hint={hint(column)} />
      ))}
    </RadioGroup.Root>
  );
}

type SeveralProps = {
  columns: Column[];
  current: string[];
  hint: string;
  most: number;
  /** Whether one that is chosen comes after those before it, and not where it stands in the data. */
  ordered: boolean;
  onSet: (value: string | string[] | null) => void;
};

/** One column, or several. */
function Several({ columns, current, hint: when, most, ordered, onSet }: SeveralProps) {
  const id = useId();
  const toggle = (name: string) => {
    const kept = current.filter((other) => other !== name);
    const added = kept.length < current.length ? kept : [...current, name];
    const next = ordered ? added : columns.map((column) => column.name).filter((other) => added.includes(other));
    onSet(next.length === 0 ? null : next.length === 1 ? (next[0] ?? null) : next);
  };
  return (
    <>
      <ul>
        {columns.map((column) => (
          <li key={column.id} className="flex items-start gap-2 rounded-md px-2 py-1.5 hover:bg-tint">
            <Checkbox.Root
              id={id + column.id}
              checked={current.includes(column.name)}
              disabled={current.length >= most && !current.includes(column.name)}
              onCheckedChange={() => toggle(column.name)}
              className="mt-0.5 flex h-4 w-4 shrink-0 items-center justify-center rounded border-2 border-ink-soft data-[state=checked]:border-moss data-[state=checked]:bg-moss"
            >
              <Checkbox.Indicator>
                <Check size={12} strokeWidth={3} className="text-on-moss" aria-hidden />
              </Checkbox.Indicator>
            </Checkbox.Root>
            <label htmlFor={id + column.id}>
              <span className="font-medium">{column.name}</span>
              <span className="block text-[13px] text-ink-soft">
                {ordered && current.includes(column.name)
                  ? `${hint(column)}, number ${current.indexOf(column.name) + 1}`
                  : hint(column)}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <p className="mt-2 border-t border-hairline pt-2 text-[13px] text-ink-soft">{when}</p>
    </>
  );
}
