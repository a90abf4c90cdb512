import { type ReactNode, useId, useState } from "react";
import { typedNumber } from "../../lib/format";

const FIELD =
  "block h-[30px] rounded-md border border-hairline bg-paper px-2 text-[15px] text-ink aria-invalid:border-clay";

type TextProps = { label: string; value: string; wide?: string; onChange: (text: string) => void };

export function Text({ label, value, wide = "w-40", onChange }: TextProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        value={value}
        autoComplete="off"
        onChange={(event) => onChange(event.target.value)}
        className={`${FIELD} ${wide}`}
      />
    </div>
  );
}

type NumberProps = { label: string; value: number | null; onChange: (value: number | null) => void };

/** A number; what is no number yet stays in the field as typed. */
export function NumberField({ label, value, onChange }: NumberProps) {
  const id = useId();
  const [text, setText] = useState(value === null ? "" : String(value));
  const typed = typedNumber(text);
  const shown = typed !== undefined && typed !== value ? (value === null ? "" : String(value)) : text;
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        inputMode="decimal"
        autoComplete="off"
        aria-invalid={typedNumber(shown) === undefined}
        value={shown}
        onChange={({ target }) => {
          setText(target.value);
          const next = typedNumber(target.value);
          if (next !== undefined) onChange(next);
        }}
        className={`${FIELD} w-28`}
      />
    </div>
  );
}

type ChooseProps = { label: string; value: string; onChange: (value: string) => void; children: ReactNode };

export function Choose({ label, value, onChange, children }: ChooseProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className={`${FIELD} max-w-72 px-1.5`}
      >
        {children}
      </select>
    </div>
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
