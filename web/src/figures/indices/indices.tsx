import { type RefObject, useState } from "react";
import type { Schema } from "../../api/client";
import { fixed, grouped, shareWords, writerOf } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { toneColour } from "../../marks/tone";
import { WithMeaning } from "../../parts/explained";
import { Interval } from "./interval";
import { Picture } from "./picture";
import { rowName } from "./row-name";

type Numbers = Schema["IndicesNumbers"];
type Row = Schema["IndicesRow"];
type Props = {
  numbers: Numbers;
  figure: RefObject<SVGSVGElement | null>;
  onOpen: (row: Row) => void;
};

type Head = { key: string; words: string; of?: (row: Row) => number | string | null | undefined; low?: boolean };

const HEADS: Head[] = [
  { key: "name", words: "what", of: rowName },
  { key: "dial", words: "" },
  { key: "ppk", words: "Ppk and its interval", of: (row) => row.ppk, low: true },
  { key: "pp", words: "Pp", of: (row) => row.pp, low: true },
  { key: "cpk", words: "Cpk", of: (row) => row.cpk, low: true },
  { key: "cp", words: "Cp", of: (row) => row.cp, low: true },
  { key: "n", words: "values", of: (row) => row.n },
  { key: "steady", words: "steady", of: (row) => -row.signals },
  { key: "shape", words: "shape", of: (row) => row.shape_p },
  { key: "out", words: "out", of: (row) => -(row.expected_out ?? row.seen_out ?? 0) },
];

const two = (value: number | null | undefined) => (value == null ? "–" : fixed(value, 2));

/** One row a characteristic: its dial, its indices, and whether they can be relied on. A click opens its own page. */
export function Indices({ numbers, figure, onOpen }: Props) {
  const [sort, setSort] = useState<{ key: string; up: boolean } | null>({ key: "ppk", up: true });
  const head = HEADS.find((head) => head.key === sort?.key);
  const rows = [...numbers.rows].sort((a, b) =>
    sort ? compare(head?.of?.(a), head?.of?.(b)) * (sort.up ? 1 : -1) : 0,
  );
  const most = Math.max(2, ...numbers.rows.map((row) => row.ppk_ci95?.[1] ?? row.ppk ?? 0));
  return (
    <section className="h-full overflow-auto px-4 pb-3 pt-9" aria-label="Indices">
      <table className="w-full border-separate border-spacing-0 text-right">
        <thead className="sticky -top-9 z-[1] bg-sheet text-[13px] text-ink-soft">
          <tr>
            {HEADS.map(({ key, words, of }) => (
              <th
                key={key}
                aria-sort={sort?.key === key ? (sort.up ? "ascending" : "descending") : undefined}
                className="border-b border-hairline px-2 pb-1 font-medium first:pl-0 first:text-left"
              >
                {of ? (
                  <WithMeaning words={words}>
                    <button
                      type="button"
                      className="hover:text-ink"
                      onClick={() => setSort({ key, up: sort?.key === key ? !sort.up : true })}
                    >
                      {words} {sort?.key === key ? (sort.up ? "↑" : "↓") : ""}
                    </button>
                  </WithMeaning>
                ) : (
                  <span className="sr-only">dial</span>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={rowName(row)}
              onClick={() => onOpen(row)}
              className="cursor-pointer align-middle hover:bg-tint [&>*]:border-b [&>*]:border-hairline"
            >
              <th scope="row" className="whitespace-nowrap py-1 text-left font-semibold">
                <button
                  type="button"
                  onClick={(event) => {
                    // The row would open it once more.
                    event.stopPropagation();
                    onOpen(row);
                  }}
                  className="text-left hover:text-moss"
                >
                  {rowName(row)}
                </button>
                <span
                  className="block max-w-48 truncate text-[13px] font-normal"
                  style={{ color: toneColour(row.tone) }}
                >
                  {row.problem ?? row.title}
                </span>
              </th>
              <td className="w-[106px] px-1">
                {row.dial && (
                  <div className="w-[104px]">
                    <Dial limits={row} dial={row.dial} writer={writerOf(row.writer)} name={rowName(row)} small />
                  </div>
                )}
              </td>
              <td className="px-2">
                <div className="flex items-center justify-end gap-2">
                  <Interval row={row} most={most} goal={numbers.goal} />
                  <b className={`w-10 ${row.ppk != null && row.ppk < 1 ? "text-clay" : ""}`}>{two(row.ppk)}</b>
                </div>
              </td>
              <td className="px-2">{two(row.pp)}</td>
              <td className="px-2">{two(row.cpk)}</td>
              <td className="px-2">{two(row.cp)}</td>
              <td className="px-2">{grouped(row.n)}</td>
              <td className={`whitespace-nowrap px-2 ${row.signals_by_chance ? "" : "font-semibold text-plum"}`}>
                {row.steady == null
                  ? "–"
                  : row.steady
                    ? "yes"
                    : `${row.signals}${row.signals_by_chance ? " by chance" : row.signals === 1 ? " signal" : " signals"}`}
              </td>
              <td className={`whitespace-nowrap px-2 ${row.misfits ? "font-semibold text-ochre" : ""}`}>
                {row.shape_p == null ? "–" : row.misfits ? "no fit" : "fits"}
              </td>
              <td className="whitespace-nowrap pl-2">
                {row.expected_out == null ? "–" : shareWords(row.expected_out)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Picture numbers={numbers} figure={figure} />
    </section>
  );
}

/** Missing ones last, whichever way. */
function compare(a: number | string | null | undefined, b: number | string | null | undefined): number {
  if (a == null || b == null) return a == null ? (b == null ? 0 : 1) : -1;
  return typeof a === "string" || typeof b === "string" ? String(a).localeCompare(String(b), "en") : a - b;
}
