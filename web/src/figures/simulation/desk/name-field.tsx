import { useId } from "react";
import { useDraft } from "../../../lib/use-draft";

type Props = { label: string; name: string; taken: string[]; onRename: (name: string) => Promise<unknown> };

/** The name of a piece, taken over when it is left or on Enter. */
export function NameField({ label, name, taken, onRename }: Props) {
  const id = useId();
  const isTaken = (text: string) => taken.includes(text.trim());
  const fits = (text: string) => text.trim() !== "" && !text.includes("`") && !isTaken(text);
  const field = useDraft(name, (text) => onRename(text.trim()), { fits });
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        {...field}
        aria-describedby={`${id}-said`}
        className="h-[30px] w-52 rounded-md border border-hairline bg-paper px-2 font-semibold aria-invalid:border-clay"
      />
      <p id={`${id}-said`} aria-live="polite" className="text-[12.5px] text-clay">
        {isTaken(field.value) && `Something else is called “${field.value.trim()}”.`}
      </p>
    </div>
  );
}
