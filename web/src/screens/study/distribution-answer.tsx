import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, isFinal, type Schema, taken } from "../../api/client";
import { outcomeQuery, type Spec } from "../../api/queries";
import { Distribution } from "../../figures/distribution/distribution";
import { BarsTable, NumbersTable, shortNumbers } from "../../figures/distribution/ledger";
import { useSize } from "../../lib/use-size";
import { Loading, Problem } from "../../parts/states";
import { FigureFrame } from "../../study/figure-frame";
import { Ledger } from "../../study/ledger";
import { Margin } from "../../study/margin";
import { columnsOf, isComplete, statementWords, withOptions } from "../../study/statement/words";
import { studyName } from "../../study/study-name";
import { type AnswerProps, Incomplete } from "./answer";

const NO_LIMITS = {};

/** "What does it look like?" answered: figure, margin, ledger. */
export function DistributionAnswer({ study, dataset, card, change }: AnswerProps) {
  const { spec } = study;
  const [frame, size] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const [lit, setLit] = useState<string | null>(null);
  const [tried, setTried] = useState<number | null>(null);
  const complete = isComplete(card, spec);
  const outcome = useQuery({ ...outcomeQuery(study, dataset, {}), enabled: complete });
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
    <div className="relative flex min-h-0 flex-1 gap-[22px] pb-[51px] max-lg:flex-none max-lg:flex-col max-lg:pb-0">
      <FigureFrame
        frame={frame}
        figure={figure}
        caption={statementWords(card, spec, dataset.columns)}
        fileName={`${dataset.name} ${studyName(study, [card])}`.replace(/[^\w .-]/g, "")}
        pointsAddress={`/api/studies/${study.id}/points.csv`}
        pointsName="Bars"
        busy={outcome.isFetching}
        switches={[]}
      >
        {!complete && <Incomplete />}
        {complete && failed && <Problem thrown={outcome.error} />}
        {complete && !failed && !answer && <Loading what="the values" />}
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
      </FigureFrame>
      {answer && (
        <Margin
          verdict={answer.verdict}
          notes={answer.notes}
          next={answer.next}
          dataset={dataset}
          signals={undefined}
          lit={lit}
          onLight={setLit}
          onOffer={(offer) => offer.options && set(offer.options)}
          onChoose={() => undefined}
        />
      )}
      {numbers && (
        <Ledger
          short={shortNumbers(numbers)}
          numbers={<NumbersTable numbers={numbers} />}
          points={<BarsTable numbers={numbers} />}
          formulas={card.formulas}
        />
      )}
    </div>
  );
}
