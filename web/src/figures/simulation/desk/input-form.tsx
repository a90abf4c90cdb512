import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { type Dataset, datasetsQuery, methodsQuery } from "../../../api/queries";
import { isNumeric, typedNumber } from "../../../lib/format";
import { SelectField, TextField } from "../../../parts/fields";
import { useTyping } from "../../../study/statement/use-typing";
import type { Input } from "../model";
import { ColumnField } from "./column-field";
import { ShapesOfColumn } from "./shapes-of-column";

type Props = {
  /** The field of its name. */
  name: ReactNode;
  input: Input;
  parts: string[];
  dataset: Dataset;
  onTry: (input: Input | null) => void;
  onSave: (input: Input) => void;
};

type Typed = {
  distribution: string;
  parameters: Record<string, string>;
  values: string;
  unit: string;
  part: string;
  /** The column that it is taken from, with the number of its dataset when that is another. */
  column: string;
  dataset: number | null;
  newest: string;
  spread: string;
  cost: string;
};

const text = (value: unknown) => (value == null ? "" : String(value));

const typedOf = (input: Input): Typed => ({
  distribution: input.distribution,
  parameters: Object.fromEntries(
    Object.entries(input.parameters ?? {}).flatMap(([name, value]) => (name === "values" ? [] : [[name, text(value)]])),
  ),
  values: Array.isArray(input.parameters?.values) ? input.parameters.values.join(", ") : "",
  unit: input.unit ?? "",
  part: input.part ?? "",
  column: input.column ?? "",
  dataset: input.dataset ?? null,
  newest: text(input.newest),
  spread: text(input.spread),
  cost: text(input.cost),
});

/** How an input is distributed: by a shape with its parameters, by values, or from a column. */
export function InputForm({ name, input, parts, dataset, onTry, onSave }: Props) {
  const cards = useQuery(methodsQuery).data ?? [];
  const slot = cards.flatMap(({ slots }) => slots).find((slot) => slot.kind === "built" && slot.one === "input");
  const choices = slot?.kind === "built" ? slot.choices : [];
  const inputOf = (typed: Typed): Input | null => {
    const fields = choices.find(({ value }) => value === typed.distribution)?.fields ?? [];
    const numbers = fields.map(({ name, required, low }) => {
      const value = typedNumber(typed.parameters[name] ?? "");
      const fits = value === null ? !required : value !== undefined && (low == null || value >= low);
      return { name, value, fits };
    });
    const optional = [typed.newest, typed.spread, typed.cost].map(typedNumber);
    if (optional.includes(undefined)) return null;
    const [newest, spread, cost] = optional;
    // A column without typed parameters is followed; without a column everything has to be typed.
    const follows = typed.column !== "" && fields.every(({ name }) => !typed.parameters[name]?.trim());
    const values = typed.values
      .split(/[\s;,]+/)
      .filter((one) => one !== "")
      .map(Number);
    if (typed.distribution === "data") {
      if (typed.column === "" && (values.length === 0 || values.some(Number.isNaN))) return null;
    } else if (!follows && numbers.some(({ fits }) => !fits)) return null;
    const parameters =
      typed.distribution === "data"
        ? typed.column === "" && { values }
        : !follows && Object.fromEntries(numbers.flatMap(({ name, value }) => (value == null ? [] : [[name, value]])));
    return {
      name: input.name,
      ...(typed.unit.trim() && { unit: typed.unit.trim() }),
      ...(typed.part.trim() && { part: typed.part.trim() }),
      distribution: typed.distribution,
      ...(parameters && { parameters }),
      ...(typed.column && { column: typed.column }),
      ...(typed.column && typed.dataset != null && { dataset: typed.dataset }),
      ...(newest != null && { newest }),
      ...(spread != null && { spread }),
      ...(cost != null && { cost }),
    };
  };
  const { typed, change, flush } = useTyping<Typed>({
    stored: typedOf(input),
    optionsOf: (typed) => inputOf(typed) as Record<string, unknown> | null,
    storedWith: (next) => typedOf(next as Input),
    onTry: (next) => onTry(next as Input | null),
    onSave: (next) => onSave(next as Input),
  });
  const set = (part: Partial<Typed>) => change({ ...typed, ...part });
  const chosen = choices.find(({ value }) => value === typed.distribution);
  const all = useQuery(datasetsQuery).data ?? [];
  const source = typed.dataset === null ? dataset : all.find(({ id }) => id === typed.dataset);
  const isThere = source?.columns.some(({ name, kind }) => name === typed.column && isNumeric(kind)) ?? false;
  const wrong = (name: string, low: number | null | undefined) => {
    const value = typedNumber(typed.parameters[name] ?? "");
    return value === undefined || (typeof value === "number" && low != null && value < low);
  };
  return (
    <fieldset aria-label="Distribution" onBlur={flush} className="flex flex-col gap-2">
      <div className="flex flex-wrap items-end gap-2.5 pr-28">
        {name}
        <SelectField label="distribution" value={typed.distribution} onChoose={(distribution) => set({ distribution })}>
          {choices.map(({ value, words }) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        {chosen?.fields.map(({ name, label, required, low }) => (
          <TextField
            key={name}
            label={required ? label : `${label} (if any)`}
            numeric
            wide="w-[88px]"
            wrong={wrong(name, low)}
            value={typed.parameters[name] ?? ""}
            onType={(value) => set({ parameters: { ...typed.parameters, [name]: value } })}
          />
        ))}
        {typed.distribution === "data" && !typed.column && (
          <TextField label="values" wide="w-64" value={typed.values} onType={(values) => set({ values })} />
        )}
        <ColumnField
          own={dataset}
          datasets={all}
          column={typed.column}
          dataset={typed.dataset}
          onChoose={(chosen) =>
            set(
              chosen
                ? { ...chosen, unit: chosen.unit ?? typed.unit, distribution: "data", parameters: {} }
                : { column: "", dataset: null },
            )
          }
        />
        {typed.column && (
          <TextField
            label="newest only"
            numeric
            wide="w-20"
            wrong={typedNumber(typed.newest) === undefined}
            value={typed.newest}
            onType={(newest) => set({ newest })}
          />
        )}
        <TextField label="unit" wide="w-16" value={typed.unit} onType={(unit) => set({ unit })} />
        <TextField label="part" wide="w-28" list={parts} value={typed.part} onType={(part) => set({ part })} />
        <TextField
          label="spread ×"
          numeric
          wide="w-16"
          wrong={typedNumber(typed.spread) === undefined}
          value={typed.spread}
          onType={(spread) => set({ spread })}
        />
        <TextField
          label="cost of a tenth less"
          numeric
          wide="w-28"
          wrong={typedNumber(typed.cost) === undefined}
          value={typed.cost}
          onType={(cost) => set({ cost })}
        />
      </div>
      {source && isThere ? (
        <ShapesOfColumn
          column={typed.column}
          dataset={source}
          chosen={typed.distribution}
          onChoose={(distribution, parameters) =>
            set({
              distribution,
              parameters: Object.fromEntries(Object.entries(parameters).map(([name, value]) => [name, String(value)])),
            })
          }
        />
      ) : (
        <p className="text-[13px] text-ink-soft">{chosen?.use_when}</p>
      )}
    </fieldset>
  );
}
