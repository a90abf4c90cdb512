import { useQueries } from "@tanstack/react-query";
import { api, type Schema, taken } from "../../api/client";
import type { Dataset } from "../../api/queries";

const BLOCK = 200;

/** The cells of the rows in sight, read in blocks. A block of an older revision stands in until the new one is here. */
export function useRows(dataset: Dataset, first: number, count: number) {
  const from = Math.floor(first / BLOCK);
  const to = Math.floor(Math.max(first, Math.min(first + count, dataset.row_count) - 1) / BLOCK);
  const blocks = Array.from({ length: to - from + 1 }, (_, k) => from + k);
  const results = useQueries({
    queries: blocks.map((block) => ({
      queryKey: ["rows", dataset.id, block, dataset.revision],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        taken(
          api.GET("/api/datasets/{id}/rows", {
            params: { path: { id: dataset.id }, query: { first: block * BLOCK, count: BLOCK } },
            signal,
          }),
        ),
      staleTime: Number.POSITIVE_INFINITY,
      placeholderData: (before: Schema["Rows"] | undefined) => (before?.first === block * BLOCK ? before : undefined),
    })),
  });
  /** The text of a cell: null when missing, undefined while it is read. */
  const cell = (row: number, column: number): string | null | undefined => {
    const data = results[Math.floor(row / BLOCK) - from]?.data;
    return data?.cells[column]?.[row - data.first];
  };
  return { cell };
}
