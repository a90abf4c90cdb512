import type { RefObject } from "react";
import type { Schema } from "../../api/client";
import { fixed, shareWords, writerOf } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { Sheet } from "../../marks/sheet";
import { Interval } from "./interval";
import { rowName } from "./row-name";

type Numbers = Schema["IndicesNumbers"];

const WIDE = 860;
const HEAD = 34;
const HIGH = 62;
const TEXTS = [380, 520, 580, 640, 700, 780] as const;

/** The table as one picture, for a file; on the page it stays out of sight. */
export function Picture({ numbers, figure }: { numbers: Numbers; figure: RefObject<SVGSVGElement | null> }) {
  const most = Math.max(2, ...numbers.rows.map((row) => row.ppk_ci95?.[1] ?? row.ppk ?? 0));
  const high = HEAD + HIGH * numbers.rows.length;
  const two = (value: number | null | undefined) => (value == null ? "–" : fixed(value, 2));
  const cell = (x: number, text: string, weight = 400) => (
    <text x={x} y={HIGH / 2 + 5} fontSize="13" fontWeight={weight} textAnchor="end" fill="var(--ink)">
      {text}
    </text>
  );
  return (
    <div className="hidden" aria-hidden>
      <Sheet figure={figure} size={{ width: WIDE, height: high }} label="Indices, a row each">
        {["Ppk", "Pp", "Cpk", "Cp", "signals", "out"].map((head, place) => (
          <text key={head} x={TEXTS[place]} y="22" fontSize="12" textAnchor="end" fill="var(--ink-soft)">
            {head}
          </text>
        ))}
        {numbers.rows.map((row, index) => (
          <g key={rowName(row)} transform={`translate(0,${HEAD + HIGH * index})`}>
            <path d={`M12 0H${WIDE - 12}`} stroke="var(--hairline)" />
            <text x="14" y="27" fontSize="13" fontWeight="600" fill="var(--ink)">
              {rowName(row)}
            </text>
            <text x="14" y="46" fontSize="12" fill="var(--ink-soft)">
              {row.problem ?? row.title}
            </text>
            {row.dial && (
              <svg x="210" y="4" width="108" height="55" viewBox="0 0 244 124" aria-hidden>
                <Dial limits={row} dial={row.dial} writer={writerOf(row.writer)} name={rowName(row)} small />
              </svg>
            )}
            {cell(TEXTS[0], two(row.ppk), 600)}
            <svg x="390" y={HIGH / 2 - 11} width="100" height="22" aria-hidden>
              <Interval row={row} most={most} goal={numbers.goal} />
            </svg>
            {cell(TEXTS[1], two(row.pp))}
            {cell(TEXTS[2], two(row.cpk))}
            {cell(TEXTS[3], two(row.cp))}
            {cell(TEXTS[4], row.steady == null ? "–" : String(row.signals))}
            {cell(TEXTS[5], row.expected_out == null ? "–" : shareWords(row.expected_out))}
          </g>
        ))}
      </Sheet>
    </div>
  );
}
