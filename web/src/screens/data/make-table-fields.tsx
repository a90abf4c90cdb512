import { type ReactNode, useId } from "react";

/** A field under its words. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is what is given
    <label className="flex flex-col gap-1">
      <span className="text-[13px] text-ink-soft">{label}</span>
      {children}
    </label>
  );
}

type TypedProps = { label: string; value: string; wide?: boolean; onType: (text: string) => void };

/** A name that is typed. */
export function Typed({ label, value, wide = false, onType }: TypedProps) {
  return (
    <Field label={label}>
      <input
        value={value}
        maxLength={120}
        onChange={(event) => onType(event.target.value)}
        className={`h-[31px] rounded-md border border-hairline bg-sheet px-2 ${wide ? "w-80" : "w-48"}`}
      />
    </Field>
  );
}

type PickProps = { label: string; names: string[]; value: string; onPick: (name: string) => void };

/** One of some names. */
export function Pick({ label, names, value, onPick }: PickProps) {
  return (
    <Field label={label}>
      <select
        value={value}
        onChange={(event) => onPick(event.target.value)}
        className="h-[31px] min-w-44 rounded-md border border-hairline bg-sheet px-1.5"
      >
        <option value="">choose one</option>
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </Field>
  );
}

type ChosenProps = { label: string; names: string[]; chosen: string[]; onChoose: (names: string[]) => void };

/** Several of some names, in the order in which they stand. */
export function Chosen({ label, names, chosen, onChoose }: ChosenProps) {
  const id = useId();
  const turn = (name: string, on: boolean) =>
    onChoose(names.filter((other) => (other === name ? on : chosen.includes(other))));
  return (
    <div role="group" aria-labelledby={id}>
      <p id={id} className="text-[13px] text-ink-soft">
        {label}
      </p>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {names.map((name) => (
          <label key={name} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={chosen.includes(name)}
              onChange={(event) => turn(name, event.target.checked)}
              className="accent-moss"
            />
            {name}
          </label>
        ))}
      </div>
    </div>
  );
}
