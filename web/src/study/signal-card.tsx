import { ChevronLeft, ChevronRight, X } from "lucide-react";
import { Checkbox, RadioGroup } from "radix-ui";
import { useId, useState } from "react";
import type { Schema } from "../api/client";
import { useDraft } from "../lib/use-draft";

/** A change of what is said; what is absent stays, what is empty is taken back. */
export type Said = Schema["Said"];

type Props = {
  sentence: string;
  finding: Schema["Finding"] | null | undefined;
  causes: string[];
  /** Its place among the signals, from 1; 0 when it is no longer one. */
  place: number;
  of: number;
  onSay: (said: Said) => unknown;
  onWalk: (step: 1 | -1) => void;
  onClose: () => void;
};

const FIELD = "h-8 w-full rounded-md border border-hairline bg-paper px-2";
const BOX =
  "flex h-4 w-4 shrink-0 items-center justify-center rounded border-2 border-ink-soft data-[state=checked]:border-moss data-[state=checked]:bg-moss disabled:opacity-40";

/** One signal: its cause, what is done about it, and whether its points count. Every change is kept at once. */
export function SignalCard({ sentence, finding, causes, place, of, onSay, onWalk, onClose }: Props) {
  return (
    <section aria-label="Signal" className="mt-3 rounded-xl border border-plum/60 bg-sheet p-3">
      <header className="flex items-center gap-1 text-[13px] text-ink-soft">
        <span className="flex-1 font-semibold text-plum">
          {place > 0 ? `Signal ${place} of ${of}` : "No longer a signal"}
        </span>
        <button type="button" aria-label="Previous signal" title="Previous signal ([)" onClick={() => onWalk(-1)}>
          <ChevronLeft size={17} aria-hidden />
        </button>
        <button type="button" aria-label="Next signal" title="Next signal (])" onClick={() => onWalk(1)}>
          <ChevronRight size={17} aria-hidden />
        </button>
        <button type="button" aria-label="Close the signal" onClick={onClose} className="ml-1">
          <X size={15} aria-hidden />
        </button>
      </header>
      <p className="mt-1">{sentence}</p>
      <Causes causes={causes} cause={finding?.cause ?? null} onCause={(cause) => onSay({ cause })} />
      <div className="mt-2.5 grid grid-cols-2 gap-2">
        <TextField label="In words" wide value={finding?.words ?? ""} onKeep={(words) => onSay({ words })} />
        <TextField label="Action" wide value={finding?.action ?? ""} onKeep={(action) => onSay({ action })} />
        <TextField label="Owner" value={finding?.owner ?? ""} onKeep={(owner) => onSay({ owner })} />
        <TextField label="Due" type="date" value={finding?.due ?? ""} onKeep={(due) => onSay({ due })} />
      </div>
      <div className="mt-2.5 flex flex-col gap-1.5">
        <Tick
          label="The action is done"
          on={finding?.done ?? false}
          disabled={!finding?.action}
          onTick={(done) => onSay({ done })}
        />
        <Tick
          label="Leave its points out of the limits"
          hint={finding?.cause ? undefined : "Only with a cause."}
          on={finding?.left_out ?? false}
          disabled={!finding?.cause}
          onTick={(left_out) => onSay({ left_out })}
        />
      </div>
    </section>
  );
}

type CausesProps = { causes: string[]; cause: string | null; onCause: (cause: string) => void };

/** The causes of the column, and a field for another one. */
function Causes({ causes, cause, onCause }: CausesProps) {
  const id = useId();
  const [shown, show] = useState(0);
  // A cause that was given joins the ones above; the field begins anew.
  const keep = (text: string) => {
    if (text.trim()) onCause(text.trim());
    show(shown + 1);
  };
  return (
    <div className="mt-2.5">
      <p id={id} className="text-[13px] text-ink-soft">
        Cause
      </p>
      {causes.length > 0 && (
        <RadioGroup.Root
          aria-labelledby={id}
          value={cause ?? ""}
          onValueChange={onCause}
          className="mb-1.5 mt-1 flex flex-wrap gap-1.5"
        >
          {causes.map((one) => (
            <RadioGroup.Item
              key={one}
              value={one}
              // A click on the one that is chosen takes it back.
              onClick={() => one === cause && onCause("")}
              className="rounded-full border border-hairline px-2.5 py-0.5 text-[13px] hover:border-moss data-[state=checked]:border-moss data-[state=checked]:bg-moss data-[state=checked]:text-on-moss"
            >
              {one}
            </RadioGroup.Item>
          ))}
        </RadioGroup.Root>
      )}
      <CauseField key={shown} another={causes.length > 0} onKeep={keep} />
    </div>
  );
}

function CauseField({ another, onKeep }: { another: boolean; onKeep: (text: string) => void }) {
  return (
    <input
      aria-label={another ? "Another cause" : "Cause"}
      placeholder={another ? "another cause" : "such as: die change"}
      {...useDraft("", onKeep)}
      className={FIELD}
    />
  );
}

type TextProps = {
  label: string;
  value: string;
  type?: "text" | "date";
  wide?: boolean;
  onKeep: (text: string) => unknown;
};

/** A text that is kept when one leaves the field or presses Enter; what is typed stays when keeping fails. */
function TextField({ label, value, type = "text", wide, onKeep }: TextProps) {
  const id = useId();
  const field = useDraft(value, (text) => onKeep(text.trim()));
  return (
    <div className={wide ? "col-span-2" : ""}>
      <label htmlFor={id} className="block text-[13px] text-ink-soft">
        {label}
      </label>
      <input id={id} type={type} {...field} className={FIELD} />
    </div>
  );
}

type TickProps = { label: string; hint?: string; on: boolean; disabled: boolean; onTick: (on: boolean) => void };

function Tick({ label, hint, on, disabled, onTick }: TickProps) {
  const id = useId();
  return (
    <div className="flex items-center gap-2">
      <Checkbox.Root
        id={id}
        checked={on}
        disabled={disabled}
        onCheckedChange={(on) => onTick(on === true)}
        className={BOX}
      >
        <Checkbox.Indicator className="text-[11px] leading-none text-on-moss">✓</Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className={disabled ? "text-ink-soft" : ""}>
        {label} {hint && <span className="text-[13px] text-ink-soft">{hint}</span>}
      </label>
    </div>
  );
}
