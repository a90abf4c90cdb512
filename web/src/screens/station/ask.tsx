import { useEffect, useRef, useState } from "react";
import type { ChoiceList, Plan } from "../../api/floor";
import { typedNumber } from "../../lib/format";
import { asks, disbelief, impossible, type Rules, type Step } from "./steps";
import type { Reading } from "./use-readings";

type Props = {
  plan: Plan;
  step: Step;
  lists: ChoiceList[];
  /** What is known of the column: its unit, its limits, and which values it can have. */
  info:
    | { unit?: string | null; lsl?: number | null; usl?: number | null; limit_table?: object | null; rules?: Rules }
    | undefined;
  remark: string;
  /** A value that came from a gauge and waits to be taken. */
  reading: Reading | null;
  onTaken: () => void;
  onGive: (value: string | number, confirmed: boolean) => void;
  onRemark: (remark: string) => void;
};

/** What speaks against what was typed, and whether a value that is not believed can be confirmed. */
type Doubt = { words: string; unbelieved?: boolean };

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", "−", "0", "."];

/** The one thing that is asked, with the field that takes it. */
export function Ask({ plan, step, lists, info, remark, reading, onTaken, onGive, onRemark }: Props) {
  const [text, setText] = useState("");
  const [doubt, setDoubt] = useState<Doubt | null>(null);
  const [keys, setKeys] = useState(() => window.matchMedia?.("(pointer: coarse)").matches ?? false);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);

  const give = (typed: string) => {
    if (step.kind === "identifier") {
      if (typed.trim() || !step.required) onGive(typed.trim(), false);
      else setDoubt({ words: "This has to be said." });
      return;
    }
    const value = typedNumber(typed);
    if (typeof value !== "number")
      return setDoubt({ words: typed.trim() ? `“${typed}” is no number.` : "Type a value." });
    if (step.kind === "count" && (!Number.isInteger(value) || value < 0))
      return setDoubt({ words: "A count is a whole number." });
    const rules = (step.kind === "value" && info?.rules) || {};
    const refused = impossible(rules, value);
    if (refused) return setDoubt({ words: `${value} is no value of ${step.column}. ${refused}` });
    const unbelieved = disbelief(rules, value);
    if (unbelieved)
      return setDoubt({ words: `${value} is beyond belief. ${unbelieved} Measure again.`, unbelieved: true });
    onGive(value, false);
  };
  const latest = useRef(give);
  latest.current = give;
  useEffect(() => {
    if (!reading) return;
    onTaken();
    if (step.kind !== "value" || reading.column !== step.column)
      return setDoubt({ words: `The gauge sent ${reading.value} of ${reading.column}, which is not asked for now.` });
    setText(String(reading.value));
    latest.current(String(reading.value));
  }, [reading, onTaken, step]);

  const confirm = () => {
    const value = typedNumber(text);
    if (typeof value === "number" && remark.trim()) onGive(value, true);
  };
  const list = step.kind === "identifier" ? lists.find(({ id }) => id === step.list) : undefined;
  // A column with choices of its own takes no others.
  const own = info?.rules?.choices ?? [];
  const choices = list?.choices.filter((choice) => own.length === 0 || own.includes(choice));
  // Limits that differ by product are known once the entry is made.
  const bounds = (info?.limit_table ? [null, null] : [info?.lsl, info?.usl]).map((one) =>
    one == null ? "" : String(one),
  );
  const limits = bounds.every(Boolean)
    ? `${bounds.join(" to ")} ${info?.unit ?? ""}`
    : [bounds[0] && `at least ${bounds[0]}`, bounds[1] && `at most ${bounds[1]}`, info?.unit].filter(Boolean).join(" ");
  return (
    <section aria-label="What is asked" className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-3">
        <h1 className="font-serif text-[32px] font-semibold">{asks(plan, step)}</h1>
        {step.kind === "value" && limits && <span className="text-[20px] text-ink-soft">{limits}</span>}
        {!list && (
          <input
            ref={field}
            aria-label={asks(plan, step)}
            aria-invalid={doubt !== null}
            aria-describedby="station-doubt"
            inputMode={step.kind === "identifier" ? "text" : keys ? "none" : "decimal"}
            autoComplete="off"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setDoubt(null);
            }}
            onKeyDown={(event) => event.key === "Enter" && give(text)}
            className="h-16 w-64 rounded-xl border-[3px] border-moss bg-sheet px-4 text-[34px] font-semibold aria-invalid:border-clay"
          />
        )}
        {!list && (
          <button
            type="button"
            onClick={() => give(text)}
            className="h-16 rounded-xl bg-moss px-7 text-[22px] font-semibold text-on-moss"
          >
            Enter
          </button>
        )}
        {!list && step.kind !== "identifier" && (
          <button
            type="button"
            aria-pressed={keys}
            onClick={() => {
              setKeys(!keys);
              field.current?.focus();
            }}
            className="h-16 rounded-xl border-2 border-hairline px-5 text-[20px] aria-pressed:bg-tint"
          >
            123
          </button>
        )}
      </div>
      {list && (
        <div className="grid grid-cols-[repeat(auto-fill,minmax(200px,1fr))] gap-3">
          {choices?.map((choice, at) => (
            <button
              key={choice}
              type="button"
              // biome-ignore lint/a11y/noAutofocus: a keyboard must reach the choices at once
              autoFocus={at === 0}
              onClick={() => onGive(choice, false)}
              className="min-h-16 rounded-xl border-2 border-hairline bg-sheet px-5 text-left text-[22px] hover:border-moss"
            >
              {choice}
            </button>
          ))}
        </div>
      )}
      {keys && !list && step.kind !== "identifier" && (
        <div
          role="group"
          aria-label="Keys"
          className="grid w-[360px] max-w-full grid-cols-3 gap-2 landscape:w-full landscape:max-w-[820px] landscape:grid-cols-7"
        >
          {KEYS.map((key) => (
            <Key key={key} words={key} onPress={() => setText((now) => now + key)} />
          ))}
          <Key words="⌫" label="Delete the last digit" onPress={() => setText((now) => now.slice(0, -1))} />
        </div>
      )}
      <p id="station-doubt" role="alert" className="min-h-8 text-[22px] text-clay">
        {doubt?.words}
      </p>
      {doubt?.unbelieved && (
        <div className="flex flex-wrap items-center gap-3">
          <input
            aria-label="Remark on why it is so"
            placeholder="why it is so"
            value={remark}
            onChange={(event) => onRemark(event.target.value)}
            className="h-14 w-96 max-w-full rounded-xl border-2 border-hairline bg-sheet px-4 text-[20px]"
          />
          <button
            type="button"
            disabled={remark.trim() === ""}
            onClick={confirm}
            className="h-14 rounded-xl border-2 border-clay px-6 text-[20px] text-clay disabled:opacity-50"
          >
            It is so: {text}
          </button>
        </div>
      )}
    </section>
  );
}

function Key({ words, label, onPress }: { words: string; label?: string; onPress: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      onPointerDown={(event) => event.preventDefault()}
      onClick={onPress}
      className="h-16 rounded-xl border-2 border-hairline bg-sheet text-[26px] font-semibold active:bg-tint"
    >
      {words}
    </button>
  );
}
