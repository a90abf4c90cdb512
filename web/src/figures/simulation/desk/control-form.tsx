import type { ReactNode } from "react";
import { typedNumber } from "../../../lib/format";
import { TextField } from "../../../parts/fields";
import { useTyping } from "../../../study/statement/use-typing";
import type { Control } from "../model";

type Props = {
  /** The field of its name. */
  name: ReactNode;
  control: Control;
  parts: string[];
  onTry: (control: Control | null) => void;
  onSave: (control: Control) => void;
};

const NUMBERS = [
  ["value", "set to"],
  ["low", "lowest"],
  ["high", "highest"],
  ["step", "step (if any)"],
  ["sd", "held within an sd of"],
] as const;

type Typed = Record<(typeof NUMBERS)[number][0] | "unit" | "part", string>;

const typedOf = (control: Control): Typed => ({
  ...(Object.fromEntries(NUMBERS.map(([name]) => [name, control[name] == null ? "" : String(control[name])])) as Typed),
  unit: control.unit ?? "",
  part: control.part ?? "",
});

/** What a control is set to, and how far it may go. */
export function ControlForm({ name, control, parts, onTry, onSave }: Props) {
  const controlOf = (typed: Typed): Control | null => {
    const values = NUMBERS.map(([name]) => [name, typedNumber(typed[name])] as const);
    if (values.some(([, value]) => value === undefined)) return null;
    const { value, ...rest } = Object.fromEntries(values.filter(([, value]) => value !== null)) as Record<
      string,
      number
    >;
    if (value === undefined) return null;
    return {
      name: control.name,
      ...(typed.unit.trim() && { unit: typed.unit.trim() }),
      ...(typed.part.trim() && { part: typed.part.trim() }),
      value,
      ...rest,
    };
  };
  const { typed, change, flush } = useTyping<Typed>({
    stored: typedOf(control),
    optionsOf: (typed) => controlOf(typed) as Record<string, unknown> | null,
    storedWith: (next) => typedOf(next as unknown as Control),
    onTry: (next) => onTry(next as Control | null),
    onSave: (next) => onSave(next as unknown as Control),
  });
  const set = (part: Partial<Typed>) => change({ ...typed, ...part });
  return (
    <fieldset aria-label="Setting" onBlur={flush} className="flex flex-col gap-2">
      <div className="flex flex-wrap items-end gap-2.5 pr-28">
        {name}
        {NUMBERS.map(([name, label]) => (
          <TextField
            key={name}
            label={label}
            numeric
            wide="w-[112px]"
            wrong={typedNumber(typed[name]) === undefined || (name === "value" && typed[name].trim() === "")}
            value={typed[name]}
            onType={(value) => set({ [name]: value })}
          />
        ))}
        <TextField label="unit" wide="w-16" value={typed.unit} onType={(unit) => set({ unit })} />
        <TextField label="part" wide="w-28" list={parts} value={typed.part} onType={(part) => set({ part })} />
      </div>
      <p className="text-[13px] text-ink-soft">
        Set by the plant. A search tries what lies between the lowest and the highest; without an sd it is held exactly.
      </p>
    </fieldset>
  );
}
