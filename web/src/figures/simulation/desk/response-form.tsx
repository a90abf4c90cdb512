import type { ReactNode } from "react";
import { typedNumber } from "../../../lib/format";
import { TextField } from "../../../parts/fields";
import { useTyping } from "../../../study/statement/use-typing";
import type { Response } from "../model";
import { FormulaField } from "./formula-field";

type Props = {
  /** The field of its name. */
  name: ReactNode;
  response: Response;
  parts: string[];
  /** What its formula may name. */
  names: string[];
  /** The other responses with their formulas. */
  others: [string, string][];
  onTry: (response: Response | null) => void;
  onSave: (response: Response) => void;
};

const LIMITS = [
  ["lsl", "LSL"],
  ["target", "target"],
  ["usl", "USL"],
] as const;

type Typed = Record<"formula" | "lsl" | "target" | "usl" | "unit" | "part", string>;

const typedOf = (response: Response): Typed => ({
  ...(Object.fromEntries(
    LIMITS.map(([name]) => [name, response[name] == null ? "" : String(response[name])]),
  ) as Typed),
  formula: response.formula,
  unit: response.unit ?? "",
  part: response.part ?? "",
});

/** The formula of a response and its limits. */
export function ResponseForm({ name, response, parts, names, others, onTry, onSave }: Props) {
  const responseOf = (typed: Typed): Response | null => {
    const limits = LIMITS.map(([name]) => [name, typedNumber(typed[name])] as const);
    if (limits.some(([, value]) => value === undefined)) return null;
    const given = Object.fromEntries(limits.filter(([, value]) => value !== null)) as Record<string, number>;
    if (given.lsl !== undefined && given.usl !== undefined && given.lsl >= given.usl) return null;
    return {
      name: response.name,
      ...(typed.unit.trim() && { unit: typed.unit.trim() }),
      ...(typed.part.trim() && { part: typed.part.trim() }),
      formula: typed.formula,
      ...given,
    };
  };
  const { typed, change, flush } = useTyping<Typed>({
    stored: typedOf(response),
    optionsOf: (typed) => responseOf(typed) as Record<string, unknown> | null,
    storedWith: (next) => typedOf(next as unknown as Response),
    onTry: (next) => onTry(next as Response | null),
    onSave: (next) => onSave(next as unknown as Response),
  });
  const set = (part: Partial<Typed>) => change({ ...typed, ...part });
  const [lsl, usl] = [typedNumber(typed.lsl), typedNumber(typed.usl)];
  const crossed = typeof lsl === "number" && typeof usl === "number" && lsl >= usl;
  return (
    <fieldset aria-label="Formula and limits" onBlur={flush} className="flex flex-col gap-2">
      <div className="flex flex-wrap items-end gap-2.5 pr-28">
        {name}
        {LIMITS.map(([name, label]) => (
          <TextField
            key={name}
            label={label}
            numeric
            wide="w-[72px]"
            wrong={typedNumber(typed[name]) === undefined || (crossed && name !== "target")}
            value={typed[name]}
            onType={(value) => set({ [name]: value })}
          />
        ))}
        <TextField label="unit" wide="w-16" value={typed.unit} onType={(unit) => set({ unit })} />
        <TextField label="part" wide="w-28" list={parts} value={typed.part} onType={(part) => set({ part })} />
      </div>
      <FormulaField
        formula={typed.formula}
        label={`${response.name} =`}
        names={names}
        of={response.name}
        others={others}
        draftKey={`${window.location.pathname} ${response.name}`}
        onRead={(formula) => set({ formula })}
      />
    </fieldset>
  );
}
