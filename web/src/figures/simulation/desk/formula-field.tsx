import { useEffect, useId, useRef, useState } from "react";
import { api, type Schema, unwrapResponse } from "../../../api/client";
import { Textbook } from "../../../parts/textbook";
import { written } from "../model";

type Props = {
  formula: string;
  label: string;
  names: string[];
  /** What it is the formula of, and the formulas of the others: it must not need itself. */
  of: string;
  others: [string, string][];
  /** Under which a formula that cannot be read yet is kept while other pieces are looked at. */
  draftKey: string;
  /** A formula that can be read. */
  onRead: (formula: string) => void;
};

/** A pause in typing this long has the formula checked. */
const PAUSE = 120;
const FUNCTIONS = ["sqrt(", "ln(", "log10(", "exp(", "sin(", "cos(", "tan(", "abs(", "min(", "max(", "if(", "round("];
/** Formulas that cannot be read yet, by page and response: what was typed is never lost. */
const drafts = new Map<string, string>();

/** A formula, completed and checked while it is typed, and shown as a textbook writes it. */
export function FormulaField({ formula, label, names, of, others, draftKey, onRead }: Props) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const [text, setText] = useState(drafts.get(draftKey) ?? formula);
  const [read, setRead] = useState<Schema["ReadFormula"] | null>(null);
  const [place, setPlace] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const known = useRef(formula);
  // Undone or renamed elsewhere: shown, unless something is being typed.
  useEffect(() => {
    if (known.current === formula) return;
    known.current = formula;
    if (!drafts.has(draftKey)) setText(formula);
  }, [formula, draftKey]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: checked when the text or what it may name changes
  useEffect(() => {
    let stale = false;
    const check = async () => {
      const found = await unwrapResponse(
        api.POST("/api/formulas", { body: { formula: text, names, of, others } }),
      ).catch(() => null);
      if (stale || !found) return;
      setRead(found);
      if (found.mistake) {
        drafts.set(draftKey, text);
        return;
      }
      drafts.delete(draftKey);
      if (text !== known.current) {
        known.current = text;
        onRead(text);
      }
    };
    const timer = setTimeout(check, PAUSE);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [text, of, names.join("\n"), JSON.stringify(others)]);

  const begun = place === null ? null : begunAt(text, place);
  const offers =
    begun && begun.word.length > 0
      ? [...names.map(written), ...FUNCTIONS].filter(
          (one) => one.replace("`", "").toLowerCase().startsWith(begun.word.toLowerCase()) && one !== begun.word,
        )
      : [];
  const complete = (word: string) => {
    if (!begun) return;
    const next = text.slice(0, begun.from) + word + text.slice(begun.to);
    setText(next);
    setPlace(null);
    const after = begun.from + word.length;
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(after, after);
    });
  };
  const mistake = read?.mistake;
  const letters = Array.from(text);
  return (
    <div className="relative min-w-[340px] flex-1">
      <label htmlFor={id} className="block text-[12.5px] text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        ref={field}
        role="combobox"
        aria-expanded={offers.length > 0}
        aria-controls={`${id}-offers`}
        aria-activedescendant={offers.length > 0 ? `${id}-${chosen}` : undefined}
        aria-invalid={mistake !== undefined}
        aria-describedby={`${id}-said`}
        autoComplete="off"
        spellCheck={false}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setPlace(event.target.selectionStart);
          setChosen(0);
        }}
        onBlur={() => setPlace(null)}
        onKeyDown={(event) => {
          if (offers.length === 0) return;
          if (event.key === "ArrowDown" || event.key === "ArrowUp") {
            event.preventDefault();
            setChosen((chosen + (event.key === "ArrowDown" ? 1 : offers.length - 1)) % offers.length);
          }
          if (event.key === "Enter" || event.key === "Tab") {
            event.preventDefault();
            complete(offers[chosen] ?? "");
          }
          if (event.key === "Escape") {
            event.stopPropagation();
            setPlace(null);
          }
        }}
        className="h-[32px] w-full rounded-md border border-hairline bg-paper px-2 font-serif text-[16px] aria-invalid:border-clay"
      />
      {offers.length > 0 && (
        <div
          id={`${id}-offers`}
          role="listbox"
          aria-label="Names that fit"
          className="absolute bottom-full z-20 max-h-44 w-64 overflow-auto rounded-md border border-hairline bg-sheet py-1 shadow-lg"
        >
          {offers.map((offer, index) => (
            <div
              key={offer}
              id={`${id}-${index}`}
              role="option"
              tabIndex={-1}
              aria-selected={index === chosen}
              onPointerDown={(event) => {
                event.preventDefault();
                complete(offer);
              }}
              className="cursor-pointer px-2.5 py-0.5 aria-selected:bg-tint"
            >
              {offer}
            </div>
          ))}
        </div>
      )}
      <div id={`${id}-said`} aria-live="polite" className="mt-1 min-h-8">
        {mistake ? (
          <p className="text-[13px] text-clay">
            <span className="font-serif text-ink">
              {letters.slice(Math.max(0, mistake.from - 14), mistake.from).join("")}
              <mark className="rounded-sm bg-clay/25 px-0.5 text-clay">
                {letters.slice(mistake.from, mistake.to).join("") || "‸"}
              </mark>
              {letters.slice(mistake.to, mistake.to + 14).join("")}
            </span>{" "}
            {mistake.words[0]?.toUpperCase()}
            {mistake.words.slice(1)}.
          </p>
        ) : (
          read?.notation && <Textbook parts={read.notation.parts} />
        )}
      </div>
    </div>
  );
}

/** The word that is being typed at a place. */
function begunAt(text: string, place: number) {
  const before = /[`]?[\p{L}_][\p{L}\p{N}_ ]*$/u.exec(text.slice(0, place))?.[0] ?? "";
  // Only back-ticks hold a name with a space.
  const word = before.startsWith("`") ? before : (/[\p{L}_][\p{L}\p{N}_]*$/u.exec(before)?.[0] ?? "");
  const after = /^[\p{L}\p{N}_]*/u.exec(text.slice(place))?.[0] ?? "";
  return { word: word.replace("`", ""), from: place - word.length, to: place + after.length };
}
