import { Link } from "@tanstack/react-router";
import { fixed, writer } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { SparkLine } from "../../marks/spark-line";
import type { Watched } from "./groups";

/** One characteristic: its dial with Ppk, last value and the newest values; a small one has the dial and Ppk alone. */
export function Card({ entry, small }: { entry: Watched; small: boolean }) {
  const { column, dial, verdict } = entry;
  const write = writer(entry.decimals, column.unit);
  const poor = dial?.ppk != null && dial.ppk < 1;
  return (
    <Link
      to="/study/$id"
      params={{ id: entry.study_id }}
      title={verdict?.sentence}
      className={`block h-full rounded-xl border border-hairline bg-sheet hover:border-moss ${small ? "px-2 pb-1 pt-1.5" : "px-3.5 pb-2 pt-2.5"}`}
    >
      <h3
        className={`font-serif font-semibold leading-5 first-letter:uppercase ${small ? "truncate text-[15px]" : "text-[17px]"}`}
      >
        {column.name}
      </h3>
      {dial ? (
        <>
          <Dial limits={column} dial={dial} writer={write} name={column.name} small={small} />
          <p className={`flex justify-between ${small ? "text-[13px]" : ""}`}>
            <span>
              Ppk <b className={poor ? "text-clay" : ""}>{dial.ppk == null ? "–" : fixed(dial.ppk, 2)}</b>
            </span>
            {!small && (
              <span>
                last <b>{dial.last == null ? "–" : write.value(dial.last)}</b>
              </span>
            )}
          </p>
          {!small && (
            <SparkLine
              values={dial.recent as (number | null)[]}
              signals={dial.recent_signals}
              centre={dial.mean}
              label={`The newest ${dial.recent.length} values. ${verdict?.sentence ?? ""}`}
            />
          )}
        </>
      ) : (
        <p className={`text-clay ${small ? "line-clamp-4 text-[13px]" : "mt-4"}`}>{entry.problem}</p>
      )}
    </Link>
  );
}
