import { useInfiniteQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { api, type Schema, unwrapResponse } from "../api/client";
import type { Dataset, Study } from "../api/queries";
import { shortTime, tableNumber } from "../lib/format";
import { Explained } from "../parts/explained";

type Props = { study: Study; dataset: Dataset; name: string };
type Column = Schema["AnswerColumn"];

const PAGE = 400;
const ROW = 27;

/** The long table of an answer, read in pages while scrolling. */
export function PointsTable({ study, dataset, name }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const pages = useInfiniteQuery({
    queryKey: ["points", study.id, study.revision, dataset.revision],
    queryFn: ({ pageParam: first, signal }) =>
      unwrapResponse(
        api.GET("/api/studies/{id}/points", {
          params: { path: { id: study.id }, query: { first, last: first + PAGE - 1, points: PAGE } },
          signal,
        }),
      ),
    initialPageParam: 0,
    // A page that is not full, or one of a table that has no stretches, is the last.
    getNextPageParam: (last, all) => (last.columns[0]?.cells.length === PAGE ? all.length * PAGE : undefined),
  });
  const read = pages.data?.pages ?? [];
  const columns = read[0]?.columns ?? [];
  const rows = read.flatMap((page, place) =>
    Array.from({ length: page.columns[0]?.cells.length ?? 0 }, (_, row) => [place, row] as const),
  );
  const scroll = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 20,
  });
  const end = scroll.getVirtualItems().at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && end > rows.length - 60) fetchNextPage();
  }, [end, rows.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by key
    <div ref={list} tabIndex={0} role="region" aria-label={name} className="h-full overflow-auto">
      <div role="table" aria-rowcount={rows.length} className="relative w-max min-w-full">
        <div
          role="row"
          className="sticky top-0 z-10 flex border-b border-hairline bg-sheet pb-1 text-[13px] text-ink-soft"
        >
          {columns.map((column, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: heads may be alike, and their order is theirs
            <span key={place} role="columnheader" className={widthOf(column)}>
              <Explained head>{column.label}</Explained>
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: scroll.getTotalSize() }}>
          {scroll.getVirtualItems().map(({ index, start }) => {
            const [page = 0, row = 0] = rows[index] ?? [];
            return (
              <div
                key={index}
                role="row"
                className="absolute flex w-full border-b border-hairline/60 py-1"
                style={{ top: start, height: ROW }}
              >
                {columns.map((column, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row have fixed places
                  <span key={place} role="cell" className={widthOf(column)}>
                    {cellText(read[page]?.columns[place]?.cells[row], column)}
                  </span>
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

const isText = ({ cells }: Column) => cells.some((cell) => typeof cell === "string");
const widthOf = (column: Column) =>
  `shrink-0 truncate px-1 first-letter:uppercase ${isText(column) ? "w-40 text-left" : "w-28 text-right"}`;

function cellText(cell: string | number | null | undefined, column: Column): string {
  if (typeof cell === "number") return tableNumber(cell, column.format);
  return cell == null ? (isText(column) ? "" : "–") : shortTime(cell);
}
