import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, isFinal, type Schema, unwrapResponse } from "../api/client";
import { type Dataset, outcomeQuery, type Study, useBeside, type View } from "../api/queries";
import { type CountsSlot, statedSlots, type TypedSlot, withOptions } from "./statement/words";

/** The answer of a study as it stands, or of what is tried just now. */
export function useAnswer(study: Study, dataset: Dataset, card: Schema["MethodCard"], view: View) {
  const { spec } = study;
  const [tried, setTried] = useState<Record<string, unknown> | null | undefined>();
  const typed = statedSlots(card, study.statement)
    .map(({ slot }) => slot)
    .find((slot): slot is TypedSlot | CountsSlot => slot.kind === "typed" || slot.kind === "counts");
  const { complete } = study.statement;
  const beside = useBeside(spec);
  const query = outcomeQuery(study, dataset, view, beside);
  const outcome = useQuery({ ...query, enabled: complete });
  const draft = useQuery({
    queryKey: ["draft", study.id, study.revision, dataset.revision, beside, tried],
    queryFn: ({ signal }) =>
      unwrapResponse(
        api.POST("/api/outcomes", {
          body: withOptions(spec, tried ?? {}),
          params: { query: { ...view, fit: true } },
          signal,
        }),
      ),
    enabled: tried != null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  // What is saved takes the place of what was tried as soon as it is answered: the answer from before must not come up again.
  // What is typed since then stays.
  const answered = !outcome.isPlaceholderData && !outcome.data?.stale;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each revision anew
  useEffect(() => {
    const isSaved = (options: Record<string, unknown>) =>
      JSON.stringify(withOptions(spec, options).options) === JSON.stringify(spec.options);
    if (answered) setTried((now) => (!typed || (now && isSaved(now)) ? undefined : now));
  }, [study.revision, answered]);
  // An old answer beside a half-typed number would be taken for its answer.
  const halfTyped = typed !== undefined && tried === null;
  const trying = tried != null && (typed !== undefined || draft.data !== undefined);
  const shown = trying ? draft : outcome;
  const answer = !halfTyped && (trying || complete) && !isFinal(shown.error, shown.data) ? shown.data : undefined;
  return { answer, shown, asked: query.queryKey, typed, waits: !complete || halfTyped, attempt: setTried };
}
