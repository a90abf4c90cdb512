import { useState } from "react";

type Props = { what: string; name: string; onRename: (name: string) => void };

/** The name of a study or a dataset, renamed in place. */
export function EditableTitle({ what, name, onRename }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  if (draft === null) {
    return (
      <button
        type="button"
        title="Rename"
        onClick={() => setDraft(name)}
        className="truncate rounded px-1 font-semibold text-ink hover:bg-tint"
      >
        {name}
      </button>
    );
  }
  const done = (keep: boolean) => {
    if (keep && draft.trim() !== name) onRename(draft);
    setDraft(null);
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: the person just asked to type here
      autoFocus
      aria-label={`Name of the ${what}`}
      value={draft}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => done(true)}
      onKeyDown={(event) => {
        if (event.key === "Enter") done(true);
        if (event.key === "Escape") done(false);
      }}
      className="h-7 w-72 rounded border border-moss bg-sheet px-1.5 font-semibold text-ink"
    />
  );
}
