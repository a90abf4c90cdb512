import { useQuery } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { isFinal } from "../../api/client";
import { wallQuery } from "../../api/queries";
import { useSize } from "../../lib/use-size";
import { Loading, Problem } from "../../parts/states";
import { Card } from "./card";
import { foundIn, isRestless, ordered } from "./groups";

/** Least room of a dial that is read from afar. */
const ROOM = { width: 330, height: 330 };
const GAP = 18;

/** The Wall to hang up: as many dials as can be read from afar, page after page, without a mouse. */
export function WallDisplay() {
  const { show = "all", seconds = 12 } = useSearch({ from: "/wall" });
  const { data, error } = useQuery({
    ...wallQuery,
    refetchInterval: ({ state }) => (state.data?.some(({ stale }) => stale) ? 1000 : 60_000),
  });
  const [frame, { width, height }] = useSize<HTMLDivElement>();
  const [page, setPage] = useState(0);
  const words = show === "all" || show === "unsteady" ? "" : show;
  const wanted = show === "unsteady" ? isRestless : () => true;
  const found = ordered(foundIn(data ?? [], words, wanted), "worst");
  const columns = Math.max(1, Math.floor((width + GAP) / (ROOM.width + GAP)));
  const rows = Math.max(1, Math.floor((height + GAP) / (ROOM.height + GAP)));
  const pages = Math.max(1, Math.ceil(found.length / (columns * rows)));
  useEffect(() => {
    const timer = setInterval(() => setPage((now) => now + 1), Math.max(2, seconds) * 1000);
    return () => clearInterval(timer);
  }, [seconds]);
  if (isFinal(error, data)) return <Problem thrown={error} />;
  const at = page % pages;
  const shown = found.slice(at * columns * rows, (at + 1) * columns * rows);
  return (
    <div className="flex h-full flex-col bg-paper">
      <header className="flex h-14 shrink-0 items-center gap-5 bg-bark px-6 text-[20px] text-[#eef2ec]">
        <Link to="/" className="font-serif text-[24px] font-semibold">
          Wall
        </Link>
        <span>{show === "all" ? "" : show === "unsteady" ? "not steady" : show}</span>
        <span className="flex-1" />
        <span role="status">{pages > 1 && `${at + 1} of ${pages}`}</span>
      </header>
      <main ref={frame} className="m-6 min-h-0 flex-1">
        {!data && <Loading what="the wall" />}
        {data && found.length === 0 && (
          <p className="mt-20 text-center font-serif text-[34px]">
            {show === "unsteady" ? "None is out of control." : "Nothing is watched yet."}
          </p>
        )}
        {width > 0 && (
          <ul className="grid" style={{ gap: GAP, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
            {shown.map((entry) => (
              <li key={entry.column.id} className="flex flex-col">
                <p className="mb-1 truncate text-[15px] font-semibold text-ink-soft">{entry.dataset}</p>
                <div className="flex-1">
                  <Card entry={entry} small={false} />
                </div>
              </li>
            ))}
          </ul>
        )}
      </main>
    </div>
  );
}
