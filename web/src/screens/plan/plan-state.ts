import type { Schema } from "../../api/client";
import { typedNumber } from "../../lib/format";

export type Plan = Schema["GaugePlan"];
export type Kind = Plan["kind"];

/** What a person types, as text. */
export type Typed = {
  kind: Kind;
  characteristic: string;
  unit: string;
  decimals: string;
  lsl: string;
  usl: string;
  operators: string;
  parts: string;
  trials: string;
  references: string;
  labels: string;
  known: string;
  plannedBy: string;
  seed: string;
};

export const KINDS: { kind: Kind; words: string; when: string }[] = [
  {
    kind: "crossed",
    words: "everybody reads every part",
    when: "Crossed: the usual study, when parts survive the reading.",
  },
  { kind: "nested", words: "each has parts of their own", when: "Nested: when reading destroys the part." },
  { kind: "single", words: "one piece of known value", when: "Bias, Cg and Cgk: first of all with a new gauge." },
  {
    kind: "linearity",
    words: "pieces of known value over the range",
    when: "Linearity: when the gauge serves small and large pieces.",
  },
  { kind: "attribute", words: "judgements", when: "Agreement: good or bad, by eye or go and no-go." },
];

/** What is usual for a kind of study. */
const USUAL: Record<Kind, { parts: string; trials: string }> = {
  crossed: { parts: "10", trials: "3" },
  nested: { parts: "5", trials: "2" },
  single: { parts: "1", trials: "50" },
  linearity: { parts: "5", trials: "12" },
  attribute: { parts: "30", trials: "2" },
};

export const START: Typed = {
  kind: "crossed",
  characteristic: "",
  unit: "",
  decimals: "",
  lsl: "",
  usl: "",
  operators: "",
  ...USUAL.crossed,
  references: "",
  labels: "bad\ngood",
  known: "",
  plannedBy: "",
  seed: "",
};

/** Another kind of study, with the numbers that are usual for it. */
export const withKind = (typed: Typed, kind: Kind): Typed => ({ ...typed, kind, ...USUAL[kind] });

export const hasOperators = (kind: Kind) => kind === "crossed" || kind === "nested" || kind === "attribute";

/** Entries on lines of their own, or parted by commas or semicolons. */
const list = (text: string, numbers = false): string[] =>
  text
    .split(numbers ? /[\n;\s]+/ : /[\n,;]+/)
    .map((entry) => entry.trim())
    .filter(Boolean);

const whole = (text: string) => Math.max(0, Math.round(typedNumber(text) ?? 0));

/** The plan as it is sent. */
export function planOf(typed: Typed): Plan {
  const { kind } = typed;
  const judged = kind === "attribute";
  return {
    kind,
    characteristic: typed.characteristic,
    info: judged
      ? { unit: null, decimals: null, lsl: null, target: null, usl: null }
      : {
          unit: typed.unit.trim() || null,
          decimals: typedNumber(typed.decimals) ?? null,
          lsl: typedNumber(typed.lsl) ?? null,
          target: null,
          usl: typedNumber(typed.usl) ?? null,
        },
    operators: hasOperators(kind) ? list(typed.operators) : [],
    parts: kind === "single" ? 1 : whole(typed.parts),
    trials: whole(typed.trials),
    references:
      kind === "single" || kind === "linearity"
        ? list(typed.references, true).flatMap((entry) => typedNumber(entry) ?? [])
        : [],
    labels: judged ? list(typed.labels) : [],
    known: judged ? list(typed.known) : [],
    planned_by: typed.plannedBy.trim(),
    seed: whole(typed.seed),
  };
}
