import { useId } from "react";
import { useDraft } from "../../../lib/use-draft";

type Props = { label: string; name: string; taken: string[]; onRename: (name: string) => Promise<unknown> };

/** The name of a piece, taken over when it is left or on Enter. */
export function NameField({ label, name, taken, onRename }: Props) {
  const id = useId();
  const fits = (text: string) => text.trim() !== "" && !text.includes("`") && !taken.includes(text.trim());
  const field = useDraft(name, (text) => onRename(text.trim()), { fits });
  return (
    <div>
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        {...field}
        className="h-[30px] w-52 rounded-md border border-hairline bg-paper px-2 font-semibold aria-invalid:border-clay"
      />
    </div>
  );
}
