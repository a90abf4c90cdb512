import { useState } from "react";
import { useDraft } from "../lib/use-draft";

type Props = { what: string; name: string; onRename: (name: string) => void };

/** The name of a study or a dataset, renamed in place. */
export function EditableTitle(props: Props) {
  const [editing, setEditing] = useState(false);
  if (editing) return <Editor {...props} onEnd={() => setEditing(false)} />;
  return (
    <button
      type="button"
      title="Rename"
      onClick={() => setEditing(true)}
      className="truncate rounded px-1 font-semibold text-ink hover:bg-tint"
    >
      {props.name}
    </button>
  );
}

function Editor({ what, name, onRename, onEnd }: Props & { onEnd: () => void }) {
  const field = useDraft(name, (text) => text.trim() !== name && onRename(text), { onEnd });
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: the person just asked to type here
      autoFocus
      aria-label={`Name of the ${what}`}
      maxLength={120}
      {...field}
      className="h-7 w-72 rounded border border-moss bg-sheet px-1.5 font-semibold text-ink"
    />
  );
}
