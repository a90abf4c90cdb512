import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useId, useState } from "react";
import { api, type Schema, unwrapResponse } from "../api/client";
import { type Dataset, gaugesQuery, type Study, useGaugeChange } from "../api/queries";
import { Button } from "../parts/button";
import { notify, notifyProblem } from "../parts/notices";

type Props = { study: Study; dataset: Dataset; subject: string | undefined; verdict: Schema["Verdict"] };

/** Keeps what a finished gauge study says with its gauge, which is that of the column unless another is chosen. */
export function RecordGauge({ study, dataset, subject, verdict }: Props) {
  const id = useId();
  const gauges = useQuery(gaugesQuery).data ?? [];
  const own = dataset.columns.find((column) => column.name === subject)?.gauge_id ?? null;
  const [chosen, setChosen] = useState<number | null>(null);
  const gauge = gauges.find((one) => one.id === (chosen ?? own));
  const record = useGaugeChange(own ?? undefined, (gauge: number) =>
    unwrapResponse(
      api.POST("/api/gauges/{id}/records", { params: { path: { id: gauge } }, body: { study_id: study.id } }),
    ),
  );
  if (verdict.tone === "unsure") return null;
  const words = (one: { name: string; number?: string }) => `${one.name} ${one.number ?? ""}`.trim();
  const kept = gauge?.records.find((one) => one.study_id === study.id);
  if (gauges.length === 0)
    return (
      <p className="mt-2 text-[13px] text-ink-soft">
        Enter the gauge under{" "}
        <Link to="/gauges" className="font-semibold text-moss hover:underline">
          Gauges
        </Link>{" "}
        to keep this study with it.
      </p>
    );
  return (
    <div className="mt-2.5 flex flex-wrap items-center gap-2 text-[13px]">
      <label htmlFor={id} className="text-ink-soft">
        gauge
      </label>
      <select
        id={id}
        value={gauge?.id ?? ""}
        onChange={(event) => setChosen(Number(event.target.value))}
        className="h-[28px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-1.5"
      >
        {!gauge && <option value="">choose</option>}
        {gauges.map((one) => (
          <option key={one.id} value={one.id}>
            {words(one)}
          </option>
        ))}
      </select>
      <Button
        disabled={!gauge || record.isPending}
        onClick={() =>
          gauge &&
          record.mutate(gauge.id, {
            onSuccess: () => notify(`Recorded with ${words(gauge)}.`),
            onError: notifyProblem,
          })
        }
      >
        {kept ? "Record again" : "Record with its gauge"}
      </Button>
      {gauge && kept && (
        <Link to="/gauges/$id" params={{ id: gauge.id }} className="basis-full font-semibold text-moss hover:underline">
          recorded {kept.day}
        </Link>
      )}
    </div>
  );
}
