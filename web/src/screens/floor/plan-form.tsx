import { useQuery } from "@tanstack/react-query";
import type { Schema } from "../../api/client";
import { listsQuery, type Plan } from "../../api/floor";
import { type Dataset, methodsQuery } from "../../api/queries";
import { isNumeric } from "../../lib/format";
import { Button } from "../../parts/button";
import { Check, NumberField, SelectField, TextField } from "../../parts/fields";
import { Column, dataAddress, Lines, Part, Row } from "./form-parts";
import { HowOften } from "./how-often";
import { ListEditor } from "./list-editor";

export const newMeasurement = (column: string): Plan["measurements"][number] => ({
  column,
  lowest: null,
  highest: null,
  channel: null,
});

export type Infos = Record<string, Schema["ColumnInfo"]>;
type Props = {
  plan: Plan;
  /** The dataset that it fills; absent while that is a new one, whose columns are named here. */
  dataset: Dataset | undefined;
  infos: Infos;
  onPlan: (plan: Plan) => void;
  onInfos: (infos: Infos) => void;
};

const ASKED: [Plan["identifiers"][number]["asked"], string][] = [
  ["time", "date and time, filled in"],
  ["subgroup", "number of the subgroup, counted on"],
  ["piece", "number of the piece, counted"],
  ["choice", "one of a list"],
  ["text", "typed or scanned"],
  ["remark", "the remark of the entry"],
];

const KINDS: Record<string, (kind: Schema["Kind"]) => boolean> = {
  time: (kind) => kind === "date-time",
  subgroup: isNumeric,
  piece: isNumeric,
  choice: (kind) => kind === "category" || kind === "text",
  text: (kind) => kind === "category" || kind === "text",
  remark: (kind) => kind === "category" || kind === "text",
};

/** What is collected, how often, and what is to be done when something is wrong. */
export function PlanForm({ plan, dataset, infos, onPlan, onInfos }: Props) {
  const lists = useQuery(listsQuery).data ?? [];
  const cards = useQuery(methodsQuery).data ?? [];
  const items = cards
    .filter(({ method }) => method === "control-chart")
    .flatMap(({ slots }) => slots.flatMap((slot) => (slot.kind === "checklist" ? slot.items : [])));
  const patterns = items.filter(({ value }, at) => items.findIndex((one) => one.value === value) === at);
  const set = (part: Partial<Plan>) => onPlan({ ...plan, ...part });
  const columns = (fits: (kind: Schema["Kind"]) => boolean) =>
    dataset?.columns.filter(({ kind }) => fits(kind)).map(({ name }) => name);
  const inAll = <T,>(all: T[], at: number, part: Partial<T>): T[] =>
    all.map((one, place) => (place === at ? { ...one, ...part } : one));
  const without = <T,>(all: T[], at: number): T[] => all.filter((_, place) => place !== at);
  const info = (column: string, part: Schema["ColumnInfo"]) =>
    onInfos({ ...infos, [column]: { ...infos[column], ...part } });
  const { measurements, identifiers, counts, reactions } = plan;
  return (
    <div className="flex flex-col gap-5">
      <Part title="What is measured">
        {measurements.map((one, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
          <Row key={at} onRemove={() => set({ measurements: without(measurements, at) })}>
            <Column
              label="measurement"
              value={one.column}
              among={columns(isNumeric)}
              onChange={(column) => {
                set({ measurements: inAll(measurements, at, { column }) });
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
              </>
            )}
            <NumberField
              label="lowest believed"
              value={one.lowest ?? null}
              onChange={(lowest) => set({ measurements: inAll(measurements, at, { lowest }) })}
            />
            <NumberField
              label="highest believed"
              value={one.highest ?? null}
              onChange={(highest) => set({ measurements: inAll(measurements, at, { highest }) })}
            />
            <TextField
              label="channel (if any)"
              wide="w-28"
              value={one.channel ?? ""}
              onType={(channel) => set({ measurements: inAll(measurements, at, { channel: channel || null }) })}
            />
          </Row>
        ))}
        <div className="flex flex-wrap items-end gap-4">
          <Button onClick={() => set({ measurements: [...measurements, newMeasurement("")] })}>
            Add a measurement
          </Button>
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
      <Part title="What is counted">
        <div className="flex flex-wrap items-end gap-3">
          <Column
            label="inspected"
            value={counts.inspected ?? ""}
            among={columns(isNumeric)}
            onChange={(inspected) => set({ counts: { ...counts, inspected: inspected || null } })}
          />
          <Column
            label="defectives"
            value={counts.defectives ?? ""}
            among={columns(isNumeric)}
            onChange={(defectives) => set({ counts: { ...counts, defectives: defectives || null } })}
          />
          <Lines
            label="kinds of defects, a line each"
            lines={counts.defects}
            onChange={(defects) => set({ counts: { ...counts, defects } })}
          />
        </div>
      </Part>
      <Part title="What tells entries apart">
        {identifiers.map((one, at) => {
          const change = (part: Partial<typeof one>) => set({ identifiers: inAll(identifiers, at, part) });
          const asks = one.asked === "choice" || one.asked === "text";
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
            <Row key={at} onRemove={() => set({ identifiers: without(identifiers, at) })}>
              <Column
                label="column"
                value={one.column}
                among={columns(KINDS[one.asked] ?? (() => true))}
                onChange={(column) => change({ column })}
              />
              <SelectField
                label="how it comes about"
                value={one.asked}
                onChoose={(asked) => change({ asked: asked as typeof one.asked })}
              >
                {ASKED.map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </SelectField>
              {one.asked === "choice" && (
                <SelectField
                  label="list"
                  value={String(one.list ?? "")}
                  onChoose={(list) => change({ list: list ? Number(list) : null })}
                >
                  <option value="">choose a list</option>
                  {lists.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </SelectField>
              )}
              {asks && <Check label="required" checked={one.required} onChange={(required) => change({ required })} />}
              {asks && (
                <Check
                  label="kept for the next entry"
                  checked={one.remembered}
                  onChange={(remembered) => change({ remembered })}
                />
              )}
            </Row>
          );
        })}
        <Button
          onClick={() =>
            set({
              identifiers: [
                ...identifiers,
                { column: "", asked: "text", required: false, remembered: true, list: null },
              ],
            })
          }
        >
          Add an identifier
        </Button>
        <ListEditor lists={lists} />
      </Part>
      <HowOften plan={plan} set={set} />
      <Part title="What is to be done when something is wrong">
        <Lines label="causes to choose from, a line each" lines={plan.causes} onChange={(causes) => set({ causes })} />
        {reactions.map((one, at) => {
          const change = (part: Partial<typeof one>) => set({ reactions: inAll(reactions, at, part) });
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
            <Row key={at} onRemove={() => set({ reactions: without(reactions, at) })}>
              <SelectField label="on" value={one.on} onChoose={(on) => change({ on: on as typeof one.on })}>
                <option value="beyond-specification">a value beyond specification</option>
                <option value="signal">a signal of the chart</option>
              </SelectField>
              {one.on === "signal" && (
                <SelectField
                  label="kind of signal"
                  value={one.pattern ?? ""}
                  onChoose={(pattern) => change({ pattern: pattern || null })}
                >
                  <option value="">any</option>
                  {patterns.map(({ value, label }) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </SelectField>
              )}
              <label className="flex-1 text-[12.5px] text-ink-soft">
                what to do
                <textarea
                  rows={2}
                  value={one.words}
                  onChange={(event) => change({ words: event.target.value })}
                  className="block w-full min-w-64 rounded-md border border-hairline bg-paper px-2 py-1 text-[15px] text-ink"
                />
              </label>
              <label className="text-[12.5px] text-ink-soft">
                picture (if any)
                <input
                  type="file"
                  accept="image/png,image/jpeg,image/svg+xml"
                  onChange={async ({ target }) =>
                    change({ picture: target.files?.[0] ? await dataAddress(target.files[0]) : null })
                  }
                  className="block w-56 text-[13px]"
                />
              </label>
              {one.picture && <img src={one.picture} alt="" className="h-12 rounded" />}
            </Row>
          );
        })}
        <Button
          onClick={() =>
            set({ reactions: [...reactions, { on: "beyond-specification", words: "", pattern: null, picture: null }] })
          }
        >
          Add a reaction
        </Button>
      </Part>
      <Part title="Who is told">
        <Lines
          label="e-mail addresses and web hooks, a line each"
          lines={plan.told}
          onChange={(told) => set({ told })}
        />
        <p className="max-w-2xl text-[13px] text-ink-soft">
          They are told of values beyond specification and signals without a cause, and of stations that are late: in
          one message, and again until somebody takes it on.
        </p>
      </Part>
    </div>
  );
}
