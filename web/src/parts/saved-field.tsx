import { useId } from "react";
import { typedNumber } from "../lib/format";
import { useDraft } from "../lib/use-draft";

type FieldProps = { label: string; value: string; numeric?: boolean; onSave: (text: string) => Promise<unknown> };

const isNumber = (text: string) => typedNumber(text) !== undefined;

/** A field that saves when it is left or on Enter; Escape puts the old text back. */
export function SavedField({ label, value, numeric = false, onSave }: FieldProps) {
  const id = useId();
  const field = useDraft(value, onSave, numeric ? { fits: isNumber } : {});
  return (
    <div className="flex items-center">
      <label htmlFor={id} className="w-[92px] shrink-0">
        {label}
      </label>
      <input
        id={id}
        inputMode={numeric ? "decimal" : undefined}
        {...field}
        className="h-[30px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-2 aria-invalid:border-clay"
      />
    </div>
  );
}
