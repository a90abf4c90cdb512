import type { Dataset } from "../../../api/queries";
import { isNumeric } from "../../../lib/format";
import { SelectField } from "../../../parts/fields";

type Chosen = { column: string; dataset: number | null; unit?: string };
type Props = {
  /** The dataset that the model is about. */
  own: Dataset;
  datasets: Dataset[];
  column: string;
  /** The number of the dataset of that column; null for the model's own. */
  dataset: number | null;
  onChoose: (chosen: Chosen | null) => void;
};

/** From which column an input is taken, of whatever dataset; the model's own stands first. */
export function ColumnField({ own, datasets, column, dataset, onChoose }: Props) {
  const others = datasets.filter(({ id, owned }) => id !== own.id && !owned);
  const groups = (own.id > 0 ? [own, ...others] : others)
    .map((one) => ({ one, measured: one.columns.filter(({ kind }) => isNumeric(kind)) }))
    .filter(({ measured }) => measured.length > 0);
  const keyOf = (id: number | null, name: string) => (name === "" ? "" : `${id ?? own.id} ${name}`);
  const isThere = groups.some(
    ({ one, measured }) => one.id === (dataset ?? own.id) && measured.some(({ name }) => name === column),
  );
  if (groups.length === 0 && column === "") return null;
  return (
    <SelectField
      label="from column"
      value={keyOf(dataset, column)}
      onChoose={(value) => {
        const found = groups.flatMap(({ one, measured }) =>
          measured
            .filter(({ name }) => keyOf(one.id, name) === value)
            .map(({ name, unit }) => ({
              column: name,
              dataset: one.id === own.id ? null : one.id,
              ...(unit && { unit }),
            })),
        );
        onChoose(found[0] ?? null);
      }}
    >
      <option value="">none, typed</option>
      {column && !isThere && <option value={keyOf(dataset, column)}>{column}, not here</option>}
      {groups.map(({ one, measured }) => (
        <optgroup key={one.id} label={one.name}>
          {measured.map(({ id, name }) => (
            <option key={id} value={keyOf(one.id, name)}>
              {name}
            </option>
          ))}
        </optgroup>
      ))}
    </SelectField>
  );
}
