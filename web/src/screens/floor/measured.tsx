import { Link } from "@tanstack/react-router";
import type { Schema } from "../../api/client";
import type { Plan } from "../../api/floor";
import type { Dataset } from "../../api/queries";
import { isNumeric } from "../../lib/format";
import { Button } from "../../parts/button";
import { Check, NumberField, TextField } from "../../parts/fields";
import { without, withPart } from "./form-list";
import { Column, Part, Row } from "./form-parts";

/** What belongs to the columns of a new dataset, by column. */
export type Infos = Record<string, Schema["ColumnInfo"]>;

export const newMeasurement = (column: string): Plan["measurements"][number] => ({ column, channel: null });

type Props = {
  plan: Plan;
  dataset: Dataset | undefined;
  infos: Infos;
  set: (part: Partial<Plan>) => void;
  onInfos: (infos: Infos) => void;
};

/** What is measured of each piece, and of how many pieces. */
export function Measured({ plan, dataset, infos, set, onInfos }: Props) {
  const { measurements } = plan;
  const numbers = dataset?.columns.filter(({ kind }) => isNumeric(kind)).map(({ name }) => name);
  const info = (column: string, part: Schema["ColumnInfo"]) =>
    onInfos({ ...infos, [column]: { ...infos[column], ...part } });
  return (
    <Part title="What is measured">
      {measurements.map((one, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
        <Row key={at} onRemove={() => set({ measurements: without(measurements, at) })}>
          <Column
            label="measurement"
            value={one.column}
            among={numbers}
            onChange={(column) => {
              set({ measurements: withPart(measurements, at, { column }) });
              const { [one.column]: known, ...rest } = infos;
              if (known) onInfos({ ...rest, [column]: known });
            }}
          />
          {!dataset && (
            <>
              <TextField
                label="unit"
                wide="w-20"
                value={infos[one.column]?.unit ?? ""}
                onType={(unit) => info(one.column, { unit })}
              />
              {(["lsl", "target", "usl"] as const).map((name) => (
                <NumberField
                  key={name}
                  label={name === "target" ? name : name.toUpperCase()}
                  value={infos[one.column]?.[name] ?? null}
                  onChange={(value) => info(one.column, { [name]: value })}
                />
              ))}
              {(["lowest", "highest"] as const).map((name) => (
                <NumberField
                  key={name}
                  label={`${name} believed`}
                  value={infos[one.column]?.rules?.[name] ?? null}
                  onChange={(value) => info(one.column, { rules: { ...infos[one.column]?.rules, [name]: value } })}
                />
              ))}
            </>
          )}
          {dataset && <Believed dataset={dataset} column={one.column} />}
          <TextField
            label="channel (if any)"
            wide="w-28"
            value={one.channel ?? ""}
            onType={(channel) => set({ measurements: withPart(measurements, at, { channel: channel || null }) })}
          />
        </Row>
      ))}
      <div className="flex flex-wrap items-end gap-4">
        <Button onClick={() => set({ measurements: [...measurements, newMeasurement("")] })}>Add a measurement</Button>
        <NumberField
          label="pieces a subgroup"
          value={plan.pieces}
          onChange={(pieces) => set({ pieces: pieces ?? 1 })}
        />
        <Check
          label="readings of a gauge become entries by themselves"
          checked={plan.unattended}
          onChange={(unattended) => set({ unattended })}
        />
      </div>
    </Part>
  );
}

/** What a column says of its values; said there, it holds wherever values are typed. */
function Believed({ dataset, column: name }: { dataset: Dataset; column: string }) {
  const column = dataset.columns.find((one) => one.name === name);
  if (!column) return null;
  const { lowest, highest } = column.rules ?? {};
  const words =
    lowest == null && highest == null
      ? "any value is believed"
      : `believed ${lowest == null ? "up to" : `from ${lowest}`}${highest == null ? " on" : `${lowest == null ? "" : " to"} ${highest}`}`;
  return (
    <p className="pb-1.5 text-[13px] text-ink-soft">
      {words},{" "}
      <Link
        to="/data/$id"
        params={{ id: dataset.id }}
        search={{ column: column.id }}
        className="underline decoration-dotted"
      >
        set with the column
      </Link>
    </p>
  );
}
