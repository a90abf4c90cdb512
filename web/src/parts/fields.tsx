import { type ReactNode, useId, useState } from "react";
import { typedNumber } from "../lib/format";

const FIELD =
  "block h-[30px] rounded-md border border-hairline bg-paper px-2 text-[15px] text-ink aria-invalid:border-clay";

type LabelledProps = { id: string; label: string; children: ReactNode };

function Labelled({ id, label, children }: LabelledProps) {
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      {children}
    </div>
  );
}

type TextProps = {
  label: string;
  value: string;
  wrong?: boolean;
  numeric?: boolean;
  wide?: string;
  list?: string[];
  onType: (text: string) => void;
};

/** A small labelled field. */
export function TextField({ label, value, wrong = false, numeric = false, wide = "w-40", list, onType }: TextProps) {
  const id = useId();
  return (
    <Labelled id={id} label={label}>
      <input
        id={id}
        value={value}
        inputMode={numeric ? "decimal" : undefined}
        aria-invalid={wrong}
        list={list && `${id}-list`}
        autoComplete="off"
        onChange={(event) => onType(event.target.value)}
        className={`${FIELD} ${wide}`}
      />
      {list && (
        <datalist id={`${id}-list`}>
          {list.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </Labelled>
  );
}

type NumberProps = { label: string; value: number | null; onChange: (value: number | null) => void };

/** A number; what is no number yet stays in the field as typed. */
export function NumberField({ label, value, onChange }: NumberProps) {
  const [text, setText] = useState(value === null ? "" : String(value));
  const typed = typedNumber(text);
  const shown = typed !== undefined && typed !== value ? (value === null ? "" : String(value)) : text;
  return (
    <TextField
      label={label}
      value={shown}
      numeric
      wide="w-28"
      wrong={typedNumber(shown) === undefined}
      onType={(text) => {
        setText(text);
        const next = typedNumber(text);
        if (next !== undefined) onChange(next);
      }}
    />
  );
}

type SelectProps = { label: string; value: string; onChoose: (value: string) => void; children: ReactNode };

/** A small labelled list. */
export function SelectField({ label, value, onChoose, children }: SelectProps) {
  const id = useId();
  return (
    <Labelled id={id} label={label}>
      <select
        id={id}
        value={value}
        onChange={(event) => onChoose(event.target.value)}
        className={`${FIELD} max-w-72 px-1.5`}
      >
        {children}
      </select>
    </Labelled>
  );
}

type CheckProps = { label: string; checked: boolean; onChange: (checked: boolean) => void };

export function Check({ label, checked, onChange }: CheckProps) {
  return (
    <label className="flex h-[30px] items-center gap-1.5">
      <input type="checkbox" checked={checked} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  );
}
