import { type QueryKey, type UseQueryResult, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Schema } from "../api/client";
import { progressQuery } from "../api/queries";
import { Button } from "../parts/button";

/** An answer that takes longer than this says so. */
const PATIENCE = 700;

/** What is going on while an answer takes its time, with a way to stop it; and the way back after a stop. */
export function Working({
  study,
  query,
  queryKey,
}: {
  study: number;
  query: UseQueryResult<Schema["Outcome"] | Schema["StudyOutcome"]>;
  queryKey: QueryKey;
}) {
  const queries = useQueryClient();
  const { isError, isPlaceholderData, data } = query;
  // The last answer is looked at again and again until the new one is there.
  const stale = data !== undefined && "stale" in data && data.stale;
  const isFetching = query.isFetching || stale;
  const [since, setSince] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (!isFetching) return setSince(null);
    const start = Date.now();
    setSince(start);
    setNow(start);
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [isFetching]);
  const { data: progress } = useQuery({ ...progressQuery(study), enabled: since !== null && now - since > PATIENCE });
  const stopped = !isFetching && !isError && (data === undefined || isPlaceholderData);
  const slow = since !== null && now - since > PATIENCE;
  if (!stopped && !slow) return null;
  return (
    <div
      role="status"
      className="absolute left-1/2 top-3 z-20 flex -translate-x-1/2 items-center gap-3 rounded-full border border-hairline bg-sheet py-1 pl-4 pr-1.5 shadow-lg"
    >
      {slow ? (
        <>
          <span>
            {stale ? "The last answer; it is being worked out anew" : "Working on the answer"},{" "}
            {Math.round((now - since) / 1000)} s
            {progress?.share != null && `, ${Math.floor(100 * progress.share)} % of what is known to be done`}
            {progress?.so_far != null && `, best so far: ${progress.so_far}`}
            {progress?.seed != null && `, draws from seed ${progress.seed}`}
          </span>
          {!stale && (
            <Button look="quiet" onClick={() => queries.cancelQueries({ queryKey })}>
              Stop
            </Button>
          )}
        </>
      ) : (
        <>
          <span>Stopped{data === undefined ? "" : "; the figure is that of the statement before"}</span>
          <Button look="quiet" onClick={() => query.refetch()}>
            Ask again
          </Button>
        </>
      )}
    </div>
  );
}
