import { keepPreviousData, queryOptions, useQueries, useQuery } from "@tanstack/react-query";
import { isPlain, type ReadRows, readRows, type Shown, type Side } from "./shown";

const BLOCK = 200;

const block = (shown: Shown, block: number) =>
  queryOptions({
    queryKey: ["rows", shown.dataset.id, block, shown.dataset.revision, shown.view],
    queryFn: ({ signal }: { signal: AbortSignal }) => readRows(shown, block * BLOCK, BLOCK, signal),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** How many rows are shown; undefined while that is found out, with what went wrong when it cannot be. */
export function useCount(shown: Shown): { count: number | undefined; error: unknown } {
  const plain = isPlain(shown.view);
  const { data, error } = useQuery({ ...block(shown, 0), enabled: !plain, placeholderData: keepPreviousData });
  return plain ? { count: shown.dataset.row_count, error: null } : { count: error ? 0 : data?.count, error };
}

/** The cells of the rows in sight, read in blocks. A block of an older revision stands in until the new one is here. */
export function useRows(shown: Shown, first: number, count: number, rows: number) {
  const from = Math.floor(first / BLOCK);
  const to = Math.floor(Math.max(first, Math.min(first + count, rows) - 1) / BLOCK);
  const blocks = Array.from({ length: to - from + 1 }, (_, k) => from + k);
  const results = useQueries({
    queries: blocks.map((number) => ({
      ...block(shown, number),
      placeholderData: (before: ReadRows | undefined) => (before?.first === number * BLOCK ? before : undefined),
    })),
  });
  const data = (row: number) => results[Math.floor(row / BLOCK) - from]?.data;
  /** The text of a cell: null when missing, undefined while it is read. */
  const cell = (row: number, column: number): string | null | undefined => {
    const read = data(row);
    return read?.cells[shown.at[column] ?? -1]?.[row - read.first];
  };
  /** On which side of its limits the value of a cell lies. */
  const side = (row: number, column: number): Side | undefined => {
    const read = data(row);
    return read?.beyond.get(`${shown.at[column]} ${row - read.first}`);
  };
  /** Where a row stands in the table; undefined while it is read. */
  const place = (row: number): number | undefined => {
    if (isPlain(shown.view)) return row;
    const read = data(row);
    return read?.places[row - read.first];
  };
  return { cell, side, place };
}
