import { useId } from "react";

type FieldProps = {
  label: string;
  value: string;
  placeholder?: string;
  numeric?: boolean;
  onChange: (text: string) => void;
};

/** A line of the plan. */
export function Field({ label, value, placeholder, numeric, onChange }: FieldProps) {
  const id = useId();
  return (
    <div className="flex items-center gap-2">
      <label htmlFor={id} className="w-[128px] shrink-0">
        {label}
      </label>
      <input
        id={id}
        value={value}
        placeholder={placeholder}
        inputMode={numeric ? "decimal" : undefined}
        onChange={(event) => onChange(event.target.value)}
        className="h-[31px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-2.5 placeholder:text-ink-soft/70"
      />
    </div>
  );
}

/** Several entries, each on a line of its own. */
export function Lines({ label, value, placeholder, onChange }: Omit<FieldProps, "numeric">) {
  const id = useId();
  return (
    <div className="w-56">
      <label htmlFor={id} className="mb-1 block">
        {label}
      </label>
      <textarea
        id={id}
        rows={5}
        value={value}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
        className="w-full resize-y rounded-md border border-hairline bg-sheet px-2.5 py-1.5 placeholder:text-ink-soft/70"
      />
    </div>
  );
}
