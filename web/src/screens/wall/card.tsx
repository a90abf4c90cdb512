import { Link } from "@tanstack/react-router";
import type { Schema } from "../../api/client";
import { fixed, type ValueFormat, writer } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { SparkLine } from "../../marks/spark-line";
import { toneColour } from "../../marks/tone";
import type { Watched } from "./groups";
import { sinceOf, sinceWords } from "./since";

const COUNTED = { share: "share", rate: "rate", count: "mean count" } as const;

/** One characteristic: its dial with Ppk, or what is counted, last value and the newest values; a small one has the dial and its number
 * alone. */
export function Card({ entry, small, group = false }: { entry: Watched; small: boolean; group?: boolean }) {
  const { column, dial, verdict } = entry;
  const since = sinceWords(entry);
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
      {group && <p className="truncate text-[12.5px] text-ink-soft">{entry.dataset}</p>}
      {dial ? (
        <>
          <Dial limits={dial.limits} dial={dial} writer={writerFor(entry, dial)} name={column.name} small={small} />
          <p className={`flex justify-between ${small ? "text-[13px]" : ""}`}>
            <Figure entry={entry} dial={dial} />
            {!small && (
              <span>
                last <b>{dial.last == null ? "–" : writerFor(entry, dial).value(dial.last)}</b>
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
      ) : entry.problem == null ? (
        <p className={`text-ink-soft ${small ? "text-[13px]" : "mt-4"}`}>No value yet.</p>
      ) : (
        <p className={`text-clay ${small ? "line-clamp-4 text-[13px]" : "mt-4"}`}>{entry.problem}</p>
      )}
      {entry.stale ? (
        <p className="truncate text-[12.5px] text-ink-soft">being worked out anew</p>
      ) : (
        <>
          {dial?.title && dial.tone !== "calm" && !small && (
            <p className="truncate text-[12.5px]" style={{ color: toneColour(dial.tone ?? "calm") }}>
              {dial.title}
            </p>
          )}
          {since && (
            <p className={`truncate text-[12.5px] ${isGood(entry) ? "text-moss" : "font-semibold text-plum"}`}>
              {since}
            </p>
          )}
        </>
      )}
    </Link>
  );
}

const isGood = (entry: Watched) => ["steady", "better"].includes(sinceOf(entry) ?? "");

function Figure({ entry, dial }: { entry: Watched; dial: Schema["Dial"] }) {
  if (dial.of !== "values")
    return (
      <span>
        {COUNTED[dial.of]} <b>{dial.mean == null ? "–" : writerFor(entry, dial).computed(dial.mean)}</b>
      </span>
    );
  const poor = dial.ppk != null && dial.ppk < 1;
  return (
    <span>
      Ppk <b className={poor ? "text-clay" : ""}>{dial.ppk == null ? "–" : fixed(dial.ppk, 2)}</b>
    </span>
  );
}

/** Values as the column has them; shares in percent and rates with two digits of their sd. */
function writerFor({ decimals, column }: Watched, dial: Schema["Dial"]): ValueFormat {
  if (dial.of === "values") return writer(decimals, column.unit);
  if (dial.of === "count") return writer(0, null);
  const factor = dial.of === "share" ? 100 : 1;
  const sd = ((dial.ucl ?? dial.mean ?? 1) - (dial.mean ?? 0)) / 3;
  const digits = sd > 0 ? Math.max(0, Math.min(6, 1 - Math.floor(Math.log10(factor * sd)))) : 2;
  return writer(digits, dial.of === "share" ? "%" : null, factor, digits);
}
