import { type ChangeEvent, type KeyboardEvent, useState } from "react";

type Draft = { text: string; sent: boolean };

type Options = {
  /** Whether a text can be kept; one that cannot stays in the field as typed. */
  fits?: (text: string) => boolean;
  /** After the field was left, by whichever way. */
  onEnd?: () => void;
};

/**
 * What a person types over a stored text: kept when the field is left or on Enter, given up with Escape. A change from
 * elsewhere shows at once, but never takes away what has not been kept yet.
 */
export function useDraft(stored: string, keep: (text: string) => unknown, { fits, onEnd }: Options = {}) {
  const [draft, setDraft] = useState<Draft | null>(null);
  const [known, setKnown] = useState(stored);
  const [failed, setFailed] = useState(false);
  if (known !== stored) {
    setKnown(stored);
    // What was sent has been answered, perhaps written in another way.
    if (draft?.sent) setDraft(null);
  }
  const text = draft?.text ?? stored;
  const wrong = fits ? !fits(text) : false;
  const leave = () => {
    if (draft && !wrong && !draft.sent) {
      if (text === stored) setDraft(null);
      else {
        setDraft({ text, sent: true });
        Promise.resolve(keep(text)).then(
          () => setFailed(false),
          () => {
            setFailed(true);
            // Refused: what was typed stays, to be mended and sent again.
            setDraft((now) => now && { ...now, sent: false });
          },
        );
      }
    }
    onEnd?.();
  };
  return {
    value: text,
    "aria-invalid": wrong || failed,
    onChange: (event: ChangeEvent<HTMLInputElement>) => setDraft({ text: event.target.value, sent: false }),
    onBlur: leave,
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === "Enter") leave();
      if (event.key === "Escape") {
        setDraft(null);
        setFailed(false);
        onEnd?.();
      }
    },
  };
}
