import { useState } from "react";
import type { Occasion } from "./occasions";

type Props = { occasion: Occasion; causes: string[]; who: string; onDone: () => void };

const CHOICE =
  "min-h-16 rounded-xl border-2 border-hairline bg-sheet px-5 text-left text-[22px] hover:border-moss aria-pressed:border-moss aria-pressed:bg-tint";
const FIELD = "h-14 w-full rounded-xl border-2 border-hairline bg-sheet px-4 text-[20px]";

/** What happened, what to do about it, and the one question: why. */
export function React({ occasion, causes, who: usual, onDone }: Props) {
  const [cause, setCause] = useState("");
  const [action, setAction] = useState("");
  const [who, setWho] = useState(usual);
  const [failed, setFailed] = useState<string | null>(null);
  const save = async () => {
    try {
      await occasion.say({ cause: cause.trim(), action: action.trim(), who: who.trim() });
      onDone();
    } catch {
      setFailed("This could not be kept; it stays on the list. Try again, or leave it for later.");
    }
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto px-5 py-6 md:px-12" aria-label="What happened">
      <h1 className="flex items-start gap-4 font-serif text-[34px] font-semibold leading-tight">
        <svg viewBox="0 0 24 24" className="mt-1.5 h-9 w-9 shrink-0" aria-hidden="true">
          <path d="M12 1l11 11l-11 11l-11 -11z" fill="var(--plum)" />
        </svg>
        {occasion.sentence}
      </h1>
      {occasion.reactions.length > 0 && (
        <section
          aria-label="What to do"
          className="flex flex-wrap gap-5 rounded-xl border-l-8 border-[#dba63c] bg-sheet p-5"
        >
          {occasion.reactions.map(({ words, picture }) => (
            <div key={words} className="max-w-[640px] text-[22px] leading-8">
              <p className="whitespace-pre-line">{words}</p>
              {picture && <img src={picture} alt="" className="mt-3 max-h-72 rounded-lg" />}
            </div>
          ))}
        </section>
      )}
      <section aria-label="Cause">
        <h2 className="mb-2 text-[20px] text-ink-soft">Why?</h2>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-3">
          {causes.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={cause === one}
              onClick={() => setCause(one)}
              className={CHOICE}
            >
              {one}
            </button>
          ))}
          <input
            aria-label="Another cause"
            placeholder="another cause"
            value={causes.includes(cause) ? "" : cause}
            onChange={(event) => setCause(event.target.value)}
            className={FIELD}
          />
        </div>
      </section>
      <div className="grid gap-3 md:grid-cols-[2fr_1fr]">
        <label className="text-[18px] text-ink-soft">
          What was done
          <input
            value={action}
            onChange={(event) => setAction(event.target.value)}
            className={`${FIELD} mt-1 text-ink`}
          />
        </label>
        <label className="text-[18px] text-ink-soft">
          Who
          <input value={who} onChange={(event) => setWho(event.target.value)} className={`${FIELD} mt-1 text-ink`} />
        </label>
      </div>
      {failed && (
        <p role="alert" className="text-[20px] text-clay">
          {failed}
        </p>
      )}
      <div className="flex gap-4">
        <button
          type="button"
          disabled={cause.trim() === ""}
          onClick={save}
          className="h-16 rounded-xl bg-moss px-8 text-[22px] font-semibold text-on-moss disabled:opacity-50"
        >
          Keep it
        </button>
        <button type="button" onClick={onDone} className="h-16 rounded-xl border-2 border-hairline px-6 text-[20px]">
          Later
        </button>
      </div>
    </main>
  );
}
