import { useQuery } from "@tanstack/react-query";
import type { Column, Dataset, FilterStep } from "../../api/queries";
import { healthQuery } from "../../api/queries";
import { Button } from "../../parts/button";

type Props = { dataset: Dataset; onShow: (only: FilterStep) => void };

/** What makes one doubt a column, each doubt with the rows that it is about. */
export function ColumnHealth({ dataset, column, onShow }: Props & { column: Column }) {
  const doubts = (useQuery(healthQuery(dataset)).data ?? []).filter((doubt) => doubt.column === column.name);
  if (doubts.length === 0) return null;
  return (
    <ul className="mt-1">
      {doubts.map(({ kind, sentence, show }) => (
        <li key={kind} className="mb-0.5">
          {sentence}{" "}
          {show && (
            <Button look="quiet" className="inline!" onClick={() => onShow(show)}>
              Show them
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What makes one doubt rows as a whole. */
export function RowsHealth({ dataset, onShow }: Props) {
  const doubts = (useQuery(healthQuery(dataset)).data ?? []).filter((doubt) => doubt.column == null);
  return doubts.map(({ kind, sentence, show }) => (
    <span key={kind} className="text-ink-soft">
      {sentence}{" "}
      {show && (
        <Button look="quiet" onClick={() => onShow(show)}>
          Show them
        </Button>
      )}
    </span>
  ));
}
