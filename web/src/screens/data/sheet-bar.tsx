import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schema } from "../../api/client";
import { type Dataset, studiesQuery } from "../../api/queries";
import { counted, grouped } from "../../lib/format";
import { Button } from "../../parts/button";

type Props = {
  dataset: Dataset;
  /** What stands in the column to fill. */
  summary: Schema["ColumnSummary"] | undefined;
  hidden: boolean;
  onHide: (hidden: boolean) => void;
};

/** Over a sheet that is being filled: how far it is, what it answers, and whether earlier readings show. */
export function SheetBar({ dataset, summary, hidden, onHide }: Props) {
  const study = (useQuery(studiesQuery).data ?? []).find((one) => one.dataset_id === dataset.id);
  const plan = dataset.plan?.plan;
  if (!plan) return null;
  const rows = dataset.row_count;
  const left = summary?.missing ?? rows;
  const filled = rows - left;
  const word = plan.kind === "attribute" ? "judgements" : "readings";
  return (
    <section
      aria-label="Sheet"
      className="flex flex-wrap items-center gap-3 rounded-xl border border-hairline bg-sheet px-4 py-2"
    >
      <div className="min-w-40 flex-1">
        <p role="status">
          <b>
            {grouped(filled)} of {grouped(rows)} {word}
          </b>
          {left > 0 ? `, ${counted(left, "to go", "to go")}` : ": the sheet is full"}
          {plan.planned_by && <span className="text-ink-soft"> · planned by {plan.planned_by}</span>}
          <span className="text-ink-soft"> · order from seed {plan.seed}</span>
        </p>
        <div aria-hidden className="mt-1 h-1.5 overflow-hidden rounded-full bg-hairline/60">
          <div className="h-full bg-moss" style={{ width: `${(100 * filled) / Math.max(1, rows)}%` }} />
        </div>
      </div>
      <Button aria-pressed={hidden} onClick={() => onHide(!hidden)} className="aria-pressed:border-moss">
        Hide earlier {word}
      </Button>
      <Button onClick={() => window.open(`/data/${dataset.id}/print`, "_blank")}>Blank form</Button>
      <Button onClick={() => window.location.assign(`/api/datasets/${dataset.id}/export.xlsx`)}>As XLSX</Button>
      {study && (
        <Link to="/study/$id" params={{ id: study.id }} className="font-semibold text-moss hover:underline">
          What it says so far
        </Link>
      )}
    </section>
  );
}
