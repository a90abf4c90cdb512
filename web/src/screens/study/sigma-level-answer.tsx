import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, isFinal, type Schema, taken } from "../../api/client";
import { outcomeQuery, type Spec } from "../../api/queries";
import { NumbersTable, StepsTable, shortNumbers } from "../../figures/sigma-level/ledger";
import { SigmaLevel } from "../../figures/sigma-level/sigma-level";
import { useSize } from "../../lib/use-size";
import { TypedForm } from "../../study/statement/typed-form";
import { isComplete, type TypedSlot, visibleSlots, withOptions } from "../../study/statement/words";
import type { AnswerProps } from "./answer";
import { AnswerBody } from "./answer-body";

/** "How bad is it?" answered, with every key where numbers are typed. */
export function SigmaLevelAnswer(props: AnswerProps) {
  const { study, dataset, card, change } = props;
  const { spec } = study;
  const [room, size] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const [tried, setTried] = useState<Record<string, unknown> | null | undefined>();
  const typed = visibleSlots(card, spec).find((slot): slot is TypedSlot => slot.filling === "typed");
  const complete = isComplete(card, spec);
  const query = outcomeQuery(study, dataset, { points: 200 });
  const outcome = useQuery({ ...query, enabled: complete });
  const draft = useQuery({
    queryKey: ["draft", study.id, spec.options?.shift, spec.options?.goal, tried],
    queryFn: ({ signal }) =>
      taken(
        api.POST("/api/outcomes", {
          body: { method: spec.method, options: withOptions(card, spec, tried ?? {}).options },
          signal,
        }),
      ),
    enabled: typed !== undefined && tried != null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is saved takes the place of what was tried
  useEffect(() => setTried(undefined), [study.revision]);
  const trying = typed !== undefined && tried != null;
  // An old answer beside a half-typed number would be taken for its answer.
  const halfTyped = typed !== undefined && tried === null;
  const shown = trying ? draft : outcome;
  const answer = !halfTyped && (trying || complete) && !isFinal(shown.error, shown.data) ? shown.data : undefined;
  const numbers = answer?.numbers as Schema["SigmaLevelNumbers"] | undefined;
  return (
    <AnswerBody
      {...props}
      outcome={shown}
      asked={query.queryKey}
      answer={answer}
      below={room}
      waits={halfTyped}
      figure={figure}
      pointsName={numbers?.chart ? "Points" : "Steps"}
      above={
        typed && (
          <TypedForm
            key={`${study.id} ${typed.name}`}
            slot={typed}
            spec={spec}
            onTry={setTried}
            onSave={(options) => change({ spec: (spec: Spec) => withOptions(card, spec, options) })}
          />
        )
      }
      ledger={
        numbers
          ? {
              short: shortNumbers(numbers),
              numbers: <NumbersTable numbers={numbers} />,
              points: <StepsTable numbers={numbers} />,
            }
          : null
      }
    >
      {numbers && size.width > 0 && <SigmaLevel numbers={numbers} size={size} figure={figure} />}
    </AnswerBody>
  );
}
