import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { api, unwrapResponse } from "../../api/client";
import { type Dataset, datasetsQuery, type Spec } from "../../api/queries";
import { counted, isNumeric } from "../../lib/format";
import { Button } from "../../parts/button";
import { notifyProblem } from "../../parts/notices";
import type { PerPointSlot } from "./words";

type Sizes = Record<string, number>;
type Props = { slot: PerPointSlot; spec: Spec; dataset: Dataset; onSet: (value: Sizes | null) => void };

const FIELD = "mb-1.5 h-8 w-full rounded-md border border-hairline bg-paper px-1.5";

/** A number for each point by its name, summed from the columns of another dataset and kept with the study. */
export function PerPointEditor({ slot, spec, dataset, onSet }: Props) {
  const id = useId();
  const datasets = useQuery(datasetsQuery).data ?? [];
  const [from, setFrom] = useState<number | null>(null);
  const [by, setBy] = useState("");
  const [of, setOf] = useState("");
  const other = datasets.find((one) => one.id === from);
  const given = (spec.options?.[slot.name] ?? null) as Sizes | null;
  const column = (name: string) => other?.columns.find((column) => column.name === name);
  const take = async () => {
    const [label, number] = [column(by), column(of)];
    if (!other || !label || !number) return;
    const step = (spec.options?.step ?? "usual") as "usual" | "hour" | "day" | "week" | "month";
    const request = { params: { path: { id: other.id } }, body: { by: label.id, of: number.id, step } };
    onSet(await unwrapResponse(api.POST("/api/datasets/{id}/sums", request)));
  };
  return (
    <>
      {given && (
        <p className="mb-2">
          {counted(Object.keys(given).length, "number is", "numbers are")} kept with this study.{" "}
          <Button look="quiet" onClick={() => onSet(null)}>
            Give them up
          </Button>
        </p>
      )}
      <label htmlFor={`${id} from`} className="block text-[13px] text-ink-soft">
        Take them from
      </label>
      <select
        id={`${id} from`}
        className={FIELD}
        value={from ?? ""}
        onChange={({ currentTarget }) => setFrom(Number(currentTarget.value) || null)}
      >
        <option value="">choose a dataset</option>
        {datasets
          .filter((one) => one.id !== dataset.id && !one.owned)
          .map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
      </select>
      {other && (
        <>
          <label htmlFor={`${id} by`} className="block text-[13px] text-ink-soft">
            its day, shift or lot
          </label>
          <select
            id={`${id} by`}
            className={FIELD}
            value={by}
            onChange={({ currentTarget }) => setBy(currentTarget.value)}
          >
            <option value="">choose a column</option>
            {other.columns.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </select>
          <label htmlFor={`${id} of`} className="block text-[13px] text-ink-soft">
            its number inspected
          </label>
          <select
            id={`${id} of`}
            className={FIELD}
            value={of}
            onChange={({ currentTarget }) => setOf(currentTarget.value)}
          >
            <option value="">choose a column</option>
            {other.columns
              .filter(({ kind }) => isNumeric(kind))
              .map(({ name }) => (
                <option key={name}>{name}</option>
              ))}
          </select>
        </>
      )}
      <Button look="primary" disabled={!column(by) || !column(of)} onClick={() => take().catch(notifyProblem)}>
        Take them
      </Button>
    </>
  );
}
