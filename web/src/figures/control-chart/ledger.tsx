import { useInfiniteQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import type { Schema } from "../../api/client";
import { api, taken } from "../../api/client";
import type { Dataset, Study } from "../../api/queries";
import { fixed, grouped, shortTime, writerOf } from "../../lib/format";
import { panelWords } from "./titles";

type Numbers = Schema["ControlChartNumbers"];

/** The few numbers that are always in sight. */
export function shortNumbers(numbers: Numbers): [string, string][] {
  const location = numbers.panels[0];
  if (!location) return [];
  const write = writerOf(location.writer);
  const phase = location.phases.at(-1);
  const spread = numbers.panels[1] ? writerOf(numbers.panels[1].writer) : write;
  const short: [string, string | null][] = [
    ["centre", phase?.center == null ? null : write.computed(phase.center)],
    [
      "limits",
      phase?.lcl == null || phase.ucl == null
        ? null
        : `${write.bareComputed(phase.lcl)} to ${write.computed(phase.ucl)}`,
    ],
    ["within-sd", numbers.sigma_within == null ? null : spread.computed(numbers.sigma_within)],
    ["widened", numbers.sigma_z == null ? null : `${fixed(numbers.sigma_z, 2)} times`],
    [`${numbers.point_word}s`, grouped(numbers.points)],
  ];
  return short.flatMap(([term, value]) => (value === null ? [] : [[term, value] as [string, string]]));
}

/** Limits by panel and phase, signals, and what else the core found. */
export function NumbersTable({ numbers }: { numbers: Numbers }) {
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
          {numbers.panels.flatMap((panel) => {
            const write = writerOf(panel.writer);
            const varies = panel.points.some((point) => point.ucl != null);
            const cell = (value: number | null | undefined) =>
              value == null ? (varies ? "by size" : "–") : write.bareComputed(value);
            return panel.phases.map((phase) => (
              <tr key={`${panel.name} ${phase.first}`} className="border-t border-hairline">
                <th scope="row" className="py-1.5 pr-5 text-left font-semibold first-letter:uppercase">
                  {[panelWords(numbers, panel), phase.label].filter(Boolean).join(", ")}
                </th>
                <td className="pr-5">{grouped(phase.first + 1)}</td>
                <td className="pr-5">{grouped(phase.last + 1)}</td>
                <td className="pr-5">{cell(phase.lcl)}</td>
                <td className="pr-5">{cell(phase.center)}</td>
                <td className="pr-5">{cell(phase.ucl)}</td>
                <td className="pr-5">{cell(phase.sigma)}</td>
                <td className="pr-5">{grouped(panel.signal_count)}</td>
              </tr>
            ));
          })}
        </tbody>
      </table>
      <dl className="grid grid-cols-[auto_auto] content-start gap-x-5 gap-y-1">
        {facts(numbers).map(([term, value]) => (
          <div key={term} className="contents">
            <dt className="text-ink-soft">{term}</dt>
            <dd className="text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

const chance = (p: number) => (p < 0.001 ? "below 0.001" : fixed(p, 3));

/** What else the core found, each with its name. */
function facts(numbers: Numbers): [string, string][] {
  const { false_alarm, dispersion, runs, comparison, freshness, sigma_z } = numbers;
  const write = numbers.panels[0] && writerOf(numbers.panels[0].writer);
  const between = false_alarm.points_between;
  const all: [string, string | null | undefined][] = [
    [`${numbers.point_word}s`, grouped(numbers.points)],
    ["unit", write?.unit || "none"],
    ["limits at", `± ${numbers.width} sd`],
    [
      `${numbers.point_word}s between false alarms`,
      between == null ? "too rare to tell" : `about ${grouped(Math.round(between))}`,
    ],
    ["limits widened", sigma_z == null ? null : `${fixed(sigma_z, 3)} times`],
    ["scatter, χ² / df", dispersion && `${fixed(dispersion.ratio, 2)} on ${dispersion.df}`],
    ["p of the scatter", dispersion && chance(dispersion.p)],
    ["runs about the median", runs && `${runs.about_median.observed} of ${runs.about_median.n} values`],
    ["expected", runs?.about_median.expected == null ? null : fixed(runs.about_median.expected, 1)],
    ["p of clusters", runs?.about_median.p_clustering == null ? null : chance(runs.about_median.p_clustering)],
    ["p of mixtures", runs?.about_median.p_mixtures == null ? null : chance(runs.about_median.p_mixtures)],
    ["runs up and down", runs && `${runs.up_down.observed} of ${runs.up_down.n} values`],
    ["p of trends", runs?.up_down.p_trends == null ? null : chance(runs.up_down.p_trends)],
    ["p of swings", runs?.up_down.p_oscillation == null ? null : chance(runs.up_down.p_oscillation)],
    ["shift between phases", comparison && write?.computed(comparison.shift)],
    [
      "its 95 % interval",
      comparison &&
        write &&
        `${write.bareComputed(comparison.shift_ci95[0] ?? 0)} to ${write.computed(comparison.shift_ci95[1] ?? 0)}`,
    ],
    ["p of the shift", comparison && chance(comparison.p_shift)],
    ["spread after / before", comparison?.spread_ratio == null ? null : fixed(comparison.spread_ratio, 2)],
    ["p of that", comparison?.p_spread == null ? null : chance(comparison.p_spread)],
    ["newest against the limits, p", freshness && chance(freshness.p_mean)],
  ];
  return all.flatMap(([term, value]) => (value == null ? [] : [[term, value] as [string, string]]));
}

const PAGE = 400;
const ROW = 27;

/** Every point as a table, read in pages while scrolling. */
export function PointsTable({ study, dataset, numbers }: { study: Study; dataset: Dataset; numbers: Numbers }) {
  const total = numbers.points;
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
  const panels = numbers.panels.map((panel, place) => ({
    name: panelWords(numbers, panel),
    writer: writerOf(panel.writer),
    points: pages.data?.pages.flatMap(({ numbers }) => (numbers as Numbers).panels[place]?.points ?? []) ?? [],
  }));
  const [location, ...lowers] = panels;
  const loaded = location?.points ?? [];
  const writer = location?.writer ?? writerOf({ factor: 1, decimals: 3, computed_decimals: 4, unit: "" });
  const signals =
    pages.data?.pages.flatMap(({ numbers }) => (numbers as Numbers).panels.flatMap((panel) => panel.signals)) ?? [];
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
          {[
            "point",
            "name",
            "row",
            "value",
            "lower",
            "centre",
            "upper",
            ...lowers.map((panel) => panel.name),
            "signals",
          ].map((head) => (
            <span
              key={head}
              role="columnheader"
              className={head === "signals" ? "flex-1 pl-6" : "w-28 truncate text-right first-letter:uppercase"}
            >
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
              grouped((point.rows[0] ?? 0) + 1),
              point.value == null ? "missing" : writer.bare(point.value),
              cell(point.lcl),
              cell(point.center),
              cell(point.ucl),
              ...lowers.map((panel) => {
                const value = panel.points[index]?.value;
                return value == null ? "–" : panel.writer.bare(value);
              }),
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
