import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, isFinal, type Schema, taken } from "../../api/client";
import { outcomeQuery, type Spec } from "../../api/queries";
import { Distribution } from "../../figures/distribution/distribution";
import { BarsTable, NumbersTable, shortNumbers } from "../../figures/distribution/ledger";
import { useSize } from "../../lib/use-size";
import { columnsOf, isComplete, withOptions } from "../../study/statement/words";
import type { AnswerProps } from "./answer";
import { AnswerBody } from "./answer-body";

const NO_LIMITS = {};

/** "What does it look like?" answered: figure, margin, ledger. */
export function DistributionAnswer(props: AnswerProps) {
  const { study, dataset, card, change } = props;
  const { spec } = study;
  const [room, size] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const [tried, setTried] = useState<number | null>(null);
  const complete = isComplete(card, spec);
  const query = outcomeQuery(study, dataset, {});
  const outcome = useQuery({ ...query, enabled: complete });
  // While an edge is dragged, the bars of the width it has just now; nothing is saved until it is let go.
  const draft = useQuery({
    queryKey: ["draft", study.id, study.revision, dataset.revision, tried],
    queryFn: ({ signal }) =>
      taken(
        api.POST("/api/outcomes", {
          body: { ...spec, options: { ...spec.options, bins: { width: tried } } },
          signal,
        }),
      ),
    enabled: complete && tried !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: a saved width takes the place of the one that was tried
  useEffect(() => setTried(null), [study.revision]);
  const failed = isFinal(outcome.error, outcome.data);
  const saved = complete && !failed ? outcome.data : undefined;
  const answer = tried !== null && draft.data ? draft.data : saved;
  const numbers = answer?.numbers as Schema["DistributionNumbers"] | undefined;
  const column = dataset.columns.find((column) => column.name === columnsOf(spec, "measure")[0]);
  const set = (options: Record<string, unknown>) => change({ spec: (spec: Spec) => withOptions(card, spec, options) });

  return (
    <AnswerBody
      {...props}
      outcome={outcome}
      asked={query.queryKey}
      answer={answer}
      below={room}
      figure={figure}
      pointsName="Bars"
      ledger={
        numbers
          ? {
              short: shortNumbers(numbers),
              numbers: <NumbersTable numbers={numbers} />,
              points: <BarsTable numbers={numbers} />,
            }
          : null
      }
    >
      {numbers && size.width > 0 && (
        <Distribution
          numbers={numbers}
          name={column?.name ?? ""}
          limits={column ?? NO_LIMITS}
          size={size}
          figure={figure}
          onTryWidth={setTried}
          onTakeWidth={(width) => set({ bins: { width } })}
        />
      )}
    </AnswerBody>
  );
}
