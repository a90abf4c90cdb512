import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { isFinal, type Schema } from "../../api/client";
import { openWorkQuery, wallQuery } from "../../api/queries";
import { counted, fixed, writer } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { SparkLine } from "../../marks/spark-line";
import { Button } from "../../parts/button";
import { Empty, Loading, Problem } from "../../parts/states";
import { TopLine } from "../../parts/top-line";

type Watched = Schema["Watched"];

/** The first screen: one dial for each watched characteristic. */
export function Wall() {
  const { data, error } = useQuery(wallQuery);
  const [worstFirst, setWorstFirst] = useState(true);
  if (isFinal(error, data)) return <Problem thrown={error} />;
  const shown = worstFirst ? [...(data ?? [])].sort((a, b) => worry(b) - worry(a)) : data;
  return (
    <>
      <TopLine>
        <span className="font-semibold text-ink">Wall</span>
        {data && (
          <span className="text-[13px]">{counted(data.length, "characteristic", "characteristics")} watched</span>
        )}
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        {!data && <Loading what="the wall" />}
        {data?.length === 0 && <Nothing />}
        {shown && shown.length > 0 && (
          <>
            <div className="mb-3 flex items-center gap-4">
              <h1 className="flex-1 font-serif text-2xl font-semibold">{headline(shown)}</h1>
              <WithoutCause />
              <Button
                aria-pressed={worstFirst}
                onClick={() => setWorstFirst(!worstFirst)}
                className="rounded-full! text-[13px] aria-pressed:border-moss"
              >
                worst first
              </Button>
            </div>
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-3.5">
              {shown.map((entry) => (
                <li key={entry.column.id}>
                  <Card entry={entry} />
                </li>
              ))}
            </ul>
          </>
        )}
      </main>
    </>
  );
}

/** How many signals wait for a cause, on the way to their list. */
function WithoutCause() {
  const total = useQuery(openWorkQuery).data?.total ?? 0;
  if (total === 0) return null;
  return (
    <Link
      to="/signals"
      className="inline-flex h-[31px] items-center rounded-full border border-plum/60 bg-sheet px-3 text-[13px] font-semibold text-plum hover:border-plum"
    >
      {counted(total, "signal waits", "signals wait")} for a cause
    </Link>
  );
}

function Nothing() {
  return (
    <Empty title="Nothing is watched yet">
      <p>
        Give a column its limits on the{" "}
        <Link to="/data" className="font-semibold text-moss underline">
          Data page
        </Link>
        , ask “Is it steady?” of it, and its dial hangs here.
      </p>
    </Empty>
  );
}

function headline(entries: Watched[]): string {
  const unsteady = entries.filter((entry) => entry.dial && !entry.dial.steady).length;
  const signals = entries.reduce((sum, entry) => sum + (entry.dial?.signals ?? 0), 0);
  if (unsteady === 0) return `All ${entries.length} are steady.`;
  return `${unsteady} of ${entries.length} ${unsteady === 1 ? "is" : "are"} not steady: ${counted(signals, "signal", "signals")}.`;
}

/** How much an entry needs a look: unanswerable first, then signals, then a low Ppk. */
function worry({ dial }: Watched): number {
  if (!dial) return 1000;
  return (dial.steady ? 0 : 100 + Math.min(dial.signals, 50)) - (dial.ppk ?? 2);
}

function Card({ entry }: { entry: Watched }) {
  const { column, dial, verdict } = entry;
  const write = writer(entry.decimals, column.unit);
  const poor = dial?.ppk != null && dial.ppk < 1;
  return (
    <Link
      to="/study/$id"
      params={{ id: entry.study_id }}
      className="block h-full rounded-xl border border-hairline bg-sheet px-3.5 pb-2 pt-2.5 hover:border-moss"
    >
      <h2 className="font-serif text-[17px] font-semibold leading-5 first-letter:uppercase">{column.name}</h2>
      <p className="text-[13px] text-ink-soft">{entry.dataset}</p>
      {dial ? (
        <>
          <Dial limits={column} dial={dial} writer={write} name={column.name} />
          <p className="flex justify-between">
            <span>
              Ppk <b className={poor ? "text-clay" : ""}>{dial.ppk == null ? "–" : fixed(dial.ppk, 2)}</b>
            </span>
            <span>
              last <b>{dial.last == null ? "–" : write.value(dial.last)}</b>
            </span>
          </p>
          <SparkLine
            values={dial.recent as (number | null)[]}
            signals={dial.recent_signals}
            centre={dial.mean}
            label={`The newest ${dial.recent.length} values. ${verdict?.sentence ?? ""}`}
          />
        </>
      ) : (
        <p className="mt-4 text-clay">{entry.problem}</p>
      )}
    </Link>
  );
}
