import { useId, useState } from "react";
import { typedNumber } from "../lib/format";

type FieldProps = { label: string; value: string; numeric?: boolean; onSave: (text: string) => Promise<unknown> };

/** A field that saves when it is left or on Enter; Escape puts the old text back. */
export function SavedField({ label, value, numeric = false, onSave }: FieldProps) {
  const id = useId();
  const [text, setText] = useState(value);
  const [failed, setFailed] = useState(false);
  const [stored, setStored] = useState(value);
  if (stored !== value) {
    // Stored by this field or by somebody else: show what is stored now.
    setStored(value);
    setText(value);
  }
  const wrong = numeric && typedNumber(text) === undefined;
  const save = () => {
    if (text === value || wrong) return;
    onSave(text).then(
      () => setFailed(false),
      () => setFailed(true),
    );
  };
  return (
    <div className="flex items-center">
      <label htmlFor={id} className="w-[92px] shrink-0">
        {label}
      </label>
      <input
        id={id}
        value={text}
        inputMode={numeric ? "decimal" : undefined}
        aria-invalid={wrong || failed}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === "Enter") save();
          if (event.key === "Escape") setText(value);
        }}
        className="h-[30px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-2 aria-invalid:border-clay"
      />
    </div>
  );
}
