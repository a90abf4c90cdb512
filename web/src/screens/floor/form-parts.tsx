import { type ReactNode, useState } from "react";
import { Button } from "../../parts/button";
import { SelectField, TextField } from "../../parts/fields";

/** A file as an address that holds it. */
export const dataAddress = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(file);
  });

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col items-start gap-2.5">
      <h2 className="font-serif text-[17px] font-semibold">{title}</h2>
      {children}
    </section>
  );
}

export function Row({ children, onRemove }: { children: ReactNode; onRemove: () => void }) {
  return (
    <div className="flex w-full flex-wrap items-end gap-3 rounded-lg border border-hairline bg-sheet p-2.5">
      {children}
      <Button look="faint" onClick={onRemove}>
        Remove
      </Button>
    </div>
  );
}

type LinesProps = { label: string; lines: string[]; onChange: (lines: string[]) => void };

/** Several texts, a line each; empty lines are none. */
export function Lines({ label, lines, onChange }: LinesProps) {
  const [text, setText] = useState(lines.join("\n"));
  const of = (text: string) =>
    text
      .split("\n")
      .map((one) => one.trim())
      .filter((one) => one !== "");
  const shown = of(text).join("\n") === lines.join("\n") ? text : lines.join("\n");
  return (
    <label className="text-[12.5px] text-ink-soft">
      {label}
      <textarea
        rows={3}
        value={shown}
        onChange={({ target }) => {
          setText(target.value);
          onChange(of(target.value));
        }}
        className="block w-72 rounded-md border border-hairline bg-paper px-2 py-1 text-[15px] text-ink"
      />
    </label>
  );
}

type ColumnProps = { label: string; value: string; among: string[] | undefined; onChange: (column: string) => void };

/** A column: one of those that are there, or the name of a new one. */
export function Column({ label, value, among, onChange }: ColumnProps) {
  if (!among) return <TextField label={label} wide="w-48" value={value} onType={onChange} />;
  return (
    <SelectField label={label} value={value} onChoose={onChange}>
      <option value="">none</option>
      {value && !among.includes(value) && <option value={value}>{value}, does not fit</option>}
      {among.map((name) => (
        <option key={name}>{name}</option>
      ))}
    </SelectField>
  );
}
