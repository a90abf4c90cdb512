import { type ReactNode, useId } from "react";

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
export function TextField({ label, value, wrong = false, numeric = false, wide = "w-24", list, onType }: TextProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        value={value}
        inputMode={numeric ? "decimal" : undefined}
        aria-invalid={wrong}
        list={list && `${id}-list`}
        autoComplete="off"
        onChange={(event) => onType(event.target.value)}
        className={`h-[30px] rounded-md border border-hairline bg-paper px-2 aria-invalid:border-clay ${wide}`}
      />
      {list && (
        <datalist id={`${id}-list`}>
          {list.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </div>
  );
}

type SelectProps = { label: string; value: string; onChoose: (value: string) => void; children: ReactNode };

/** A small labelled list. */
export function SelectField({ label, value, onChoose, children }: SelectProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        onChange={(event) => onChoose(event.target.value)}
        className="h-[30px] max-w-52 rounded-md border border-hairline bg-paper px-1.5"
      >
        {children}
      </select>
    </div>
  );
}
