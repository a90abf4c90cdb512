import { useInfiniteQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import type { Schema } from "../../api/client";
import { api, taken } from "../../api/client";
import type { Dataset, Study } from "../../api/queries";
import { grouped, shortTime, type Writer } from "../../lib/format";

type Numbers = Schema["ControlChartNumbers"];

const WORDS: Record<string, string> = { individuals: "each value", "moving-range": "moving range" };

/** The few numbers that are always in sight. */
export function shortNumbers(numbers: Numbers, writer: Writer): [string, string][] {
  const phase = numbers.panels[0]?.phases.at(-1);
  const short: [string, string | null][] = [
    ["centre", phase?.center == null ? null : writer.computed(phase.center)],
    [
      "limits",
      phase?.lcl == null || phase.ucl == null
        ? null
        : `${writer.bareComputed(phase.lcl)} to ${writer.computed(phase.ucl)}`,
    ],
    ["within-sd", numbers.sigma_within == null ? null : writer.computed(numbers.sigma_within)],
    ["values", grouped(numbers.points)],
  ];
  return short.flatMap(([term, value]) => (value === null ? [] : [[term, value] as [string, string]]));
}

/** Limits by panel and phase, signals, false alarms. */
export function NumbersTable({ numbers, writer }: { numbers: Numbers; writer: Writer }) {
  const between = numbers.false_alarm.points_between;
  const cell = (value: number | null | undefined) => (value == null ? "–" : writer.bareComputed(value));
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-4">
      <table className="text-right">
        <thead className="text-[13px] text-ink-soft">
          <tr>
            {["", "from", "to", "lower limit", "centre", "upper limit", "sd", "signals"].map((head) => (
              <th key={head} className="pb-1 pr-5 font-medium first:text-left">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {numbers.panels.flatMap((panel) =>
            panel.phases.map((phase) => (
              <tr key={`${panel.name} ${phase.first}`} className="border-t border-hairline">
                <th scope="row" className="py-1.5 pr-5 text-left font-semibold">
                  {[WORDS[panel.name] ?? panel.name, phase.label].filter(Boolean).join(", ")}
                </th>
                <td className="pr-5">{phase.first + 1}</td>
                <td className="pr-5">{grouped(phase.last + 1)}</td>
                <td className="pr-5">{cell(phase.lcl)}</td>
                <td className="pr-5">{cell(phase.center)}</td>
                <td className="pr-5">{cell(phase.ucl)}</td>
                <td className="pr-5">{cell(phase.sigma)}</td>
                <td className="pr-5">{grouped(panel.signal_count)}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      <dl className="grid grid-cols-[auto_auto] content-start gap-x-5 gap-y-1">
        <dt className="text-ink-soft">values</dt>
        <dd className="text-right">{grouped(numbers.points)}</dd>
        <dt className="text-ink-soft">unit</dt>
        <dd className="text-right">{writer.unit || "none"}</dd>
        <dt className="text-ink-soft">limits at</dt>
        <dd className="text-right">± {numbers.width} sd</dd>
        <dt className="text-ink-soft">values between false alarms</dt>
        <dd className="text-right">{between == null ? "too rare to tell" : `about ${grouped(Math.round(between))}`}</dd>
      </dl>
    </div>
  );
}

const PAGE = 400;
const ROW = 27;

/** Every point as a table, read in pages while scrolling. */
export function PointsTable({
  study,
  dataset,
  total,
  writer,
}: {
  study: Study;
  dataset: Dataset;
  total: number;
  writer: Writer;
}) {
  const list = useRef<HTMLDivElement>(null);
  const pages = useInfiniteQuery({
    queryKey: ["points", study.id, study.revision, dataset.revision],
    queryFn: ({ pageParam: first, signal }) =>
      taken(
        api.GET("/api/studies/{id}/outcome", {
          params: { path: { id: study.id }, query: { first, last: first + PAGE - 1, points: PAGE } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (_, all) => (all.length * PAGE < total ? all.length * PAGE : undefined),
  });
  const loaded = pages.data?.pages.flatMap(({ numbers }) => numbers.panels[0]?.points ?? []) ?? [];
  const spread = pages.data?.pages.flatMap(({ numbers }) => numbers.panels[1]?.points ?? []) ?? [];
  const signals = pages.data?.pages.flatMap(({ numbers }) => numbers.panels.flatMap((panel) => panel.signals)) ?? [];
  const rows = useVirtualizer({
    count: loaded.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 20,
  });
  const end = rows.getVirtualItems().at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && end > loaded.length - 60) fetchNextPage();
  }, [end, loaded.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  const cell = (value: number | null | undefined) => (value == null ? "–" : writer.bareComputed(value));
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by key
    <div ref={list} tabIndex={0} role="region" aria-label="Points" className="h-full overflow-auto">
      <div role="table" aria-rowcount={total} className="relative w-full">
        <div
          role="row"
          className="sticky top-0 z-10 flex border-b border-hairline bg-sheet pb-1 text-[13px] text-ink-soft"
        >
          {["point", "taken", "row", "value", "lower", "centre", "upper", "moving range", "signals"].map((head) => (
            <span key={head} role="columnheader" className={head === "signals" ? "flex-1 pl-6" : "w-28 text-right"}>
              {head}
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const point = loaded[index];
            if (!point) return null;
            const own = signals.filter((signal) => point.i >= signal.first && point.i <= signal.last);
            const names = [...new Set(own.map((signal) => signal.pattern.replaceAll("-", " ")))];
            const cells = [
              grouped(point.i + 1),
              shortTime(point.label),
              grouped((point.row_ids[0] ?? 0) + 1),
              point.value == null ? "missing" : writer.bare(point.value),
              cell(point.lcl),
              cell(point.center),
              cell(point.ucl),
              spread[index]?.value == null ? "–" : writer.bare(spread[index].value),
            ];
            return (
              <div
                key={point.i}
                role="row"
                className="absolute flex w-full border-b border-hairline/60 py-1"
                style={{ top: start, height: ROW }}
              >
                {cells.map((text, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row have fixed places
                  <span key={place} role="cell" className="w-28 truncate text-right">
                    {text}
                  </span>
                ))}
                <span role="cell" className="flex-1 truncate pl-6 text-plum">
                  {[...names, point.omitted ? "left out" : ""].filter(Boolean).join(", ")}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
