import { useEffect, useRef, useState } from "react";

export type Options = Record<string, unknown>;

type Typing<T> = {
  /** What the statement holds, as it would be typed. */
  stored: T;
  /** The options that are typed; null while something is missing or wrong. */
  optionsOf: (typed: T) => Options | null;
  /** What the statement would hold with some options. */
  storedWith: (options: Options) => T;
  /** The options as they stand while typing. */
  onTry: (options: Options | null) => void;
  onSave: (options: Options) => void;
};

/** A pause in typing this long saves. */
const PAUSE = 500;

/** What is typed over a figure: tried with every key, saved when typing pauses, a field is left or the page closes. */
export function useTyping<T>({ stored, optionsOf, storedWith, onTry, onSave }: Typing<T>) {
  const [typed, setTyped] = useState(stored);
  const waiting = useRef<{ options: Options; timer: ReturnType<typeof setTimeout> } | null>(null);
  const now = JSON.stringify(stored);
  const known = useRef(now);

  // Undone, or changed in another window: show what is stored now, unless something newer is being typed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what is stored brings news
  useEffect(() => {
    if (now === known.current) return;
    known.current = now;
    if (waiting.current) return;
    setTyped(JSON.parse(now));
    onTry(optionsOf(JSON.parse(now)));
  }, [now]);

  const flush = () => {
    if (!waiting.current) return;
    const { options, timer } = waiting.current;
    clearTimeout(timer);
    waiting.current = null;
    // What comes back from this is no news: a row begun meanwhile must stay.
    known.current = JSON.stringify(storedWith(options));
    onSave(options);
  };
  const change = (next: T) => {
    setTyped(next);
    if (waiting.current) clearTimeout(waiting.current.timer);
    waiting.current = null;
    const options = optionsOf(next);
    onTry(options);
    if (options) waiting.current = { options, timer: setTimeout(flush, PAUSE) };
  };
  const latest = useRef(flush);
  latest.current = flush;
  useEffect(() => {
    const leave = () => latest.current();
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, []);
  return { typed, change, flush };
}
