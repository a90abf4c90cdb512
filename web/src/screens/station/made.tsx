import { useEffect, useRef } from "react";
import { api, unwrapResponse } from "../../api/client";
import type { Station } from "../../api/floor";
import { useSerialMutation } from "../../api/saving";
import { counted } from "../../lib/format";

type Props = { station: Station; every: number; onProblem: (words: string) => void };

/** Pieces made so far, counted on by hand where no counter of the machine says them. */
export function Made({ station, every, onProblem }: Props) {
  // What was counted a moment ago counts, also while the page still shows the number before.
  const newest = useRef(station.counter);
  useEffect(() => {
    newest.current = station.counter;
  }, [station.counter]);
  const counting = useSerialMutation(
    ["plan", station.plan_id],
    (pieces: number) =>
      unwrapResponse(
        api.POST("/api/floor/stations/{id}/counter", {
          params: { path: { id: station.id } },
          body: { counter: newest.current + pieces },
        }),
      ),
    {
      onSuccess: ({ counter }) => {
        newest.current = counter;
      },
      onError: () => onProblem("The pieces could not be counted just now. Try again."),
    },
  );
  const steps = [...new Set([1, 10, every])].sort((a, b) => a - b);
  return (
    <div className="flex flex-wrap items-center gap-3 text-[20px]">
      <span role="status">{counted(station.made, "piece made", "pieces made")}</span>
      {steps.map((pieces) => (
        <button
          key={pieces}
          type="button"
          aria-label={`${counted(pieces, "piece", "pieces")} more`}
          onClick={() => counting.mutate(pieces)}
          className="h-14 min-w-16 rounded-xl border-2 border-hairline bg-sheet px-5"
        >
          +{pieces}
        </button>
      ))}
    </div>
  );
}
