import { useState } from "react";
import type { Column, Dataset } from "../../api/queries";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { useColumnChange } from "../../parts/use-column-change";
import { type LimitTable, LimitTableDesk } from "./limit-table";

type Props = { dataset: Dataset; column: Column };

/** Whether the limits of a column differ between rows, and the way to where they are told. */
export function DifferingLimits({ dataset, column }: Props) {
  // What is refused is told on the desk.
  const { save } = useColumnChange(dataset, column);
  const [open, setOpen] = useState(false);
  const table = column.limit_table;
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        {table ? `Other limits: ${words(dataset, table)}` : "Limits by product or date"}
      </Button>
      <LimitTableDesk
        dataset={dataset}
        column={column}
        open={open}
        onOpenChange={setOpen}
        onSave={(limit_table) => save({ limit_table })}
      />
    </>
  );
}

function words(dataset: Dataset, { by, since, rows }: LimitTable): string {
  const name = (id: number | null | undefined) => dataset.columns.find((column) => column.id === id)?.name;
  const choosers = [name(by), name(since)].filter((name) => name !== undefined).join(" and ");
  return `${counted(rows.length, "line", "lines")}${choosers ? ` by ${choosers}` : ""}`;
}
