import type { QueryKey, UseQueryResult } from "@tanstack/react-query";
import { getRouteApi, useNavigate } from "@tanstack/react-router";
import { type ReactNode, type RefObject, useRef, useState } from "react";
import { isFinal, type Schema } from "../../api/client";
import type { Spec } from "../../api/queries";
import { Empty, Loading, Problem } from "../../parts/states";
import { FigureFrame, type Switch } from "../../study/figure-frame";
import { Ledger } from "../../study/ledger";
import { Margin } from "../../study/margin";
import { isComplete, statementWords, withOptions } from "../../study/statement/words";
import { studyName } from "../../study/study-name";
import { Working } from "../../study/working";
import { type AnswerProps, Incomplete } from "./answer";

type Outcome = Schema["Outcome"];
type Props = AnswerProps & {
  outcome: UseQueryResult<Outcome>;
  /** By which the answer is asked for, so that it can be stopped. */
  asked: QueryKey;
  /** The answer to show: the saved one, or that of what is tried just now. */
  answer: Outcome | undefined;
  /** Whether something is still being typed without which there is no answer. */
  waits?: boolean;
  /** The room of the figure, under what stands over it. */
  below: RefObject<HTMLDivElement | null>;
  figure: RefObject<SVGSVGElement | null>;
  /** What the figure shows when there is an answer. */
  children: ReactNode;
  /** What stands over the figure whether there is an answer or not. */
  above?: ReactNode;
  switches?: Switch[];
  pointsName?: string;
  /** What stands between the verdict and the notes. */
  aside?: ReactNode;
  ledger: { short: [string, string][]; numbers: ReactNode; points: ReactNode } | null;
};

const route = getRouteApi("/study/$id");

/** Figure, margin and ledger of an answer, with its states: incomplete, loading, refused. */
export function AnswerBody(props: Props) {
  const { study, dataset, card, change, outcome, answer, figure, children, above, ledger } = props;
  const { spec } = study;
  const navigate = useNavigate();
  const search = route.useSearch();
  const frame = useRef<HTMLDivElement>(null);
  const [lit, setLit] = useState<string | null>(null);
  const complete = isComplete(card, spec) && !props.waits;
  const failed = isFinal(outcome.error, outcome.data) && !answer;
  const show = (figure: string | undefined) =>
    navigate({ to: "/study/$id", params: { id: study.id }, search: (before) => ({ ...before, figure }) });
  const onOffer = (offer: Schema["Offer"]) => {
    if (offer.figure) show(offer.figure);
    if (offer.options) change({ spec: (spec: Spec) => withOptions(card, spec, offer.options ?? {}) });
  };
  return (
    <div className="relative flex min-h-0 flex-1 gap-[22px] pb-[51px] max-lg:flex-none max-lg:flex-col max-lg:pb-0">
      <FigureFrame
        frame={frame}
        figure={figure}
        caption={statementWords(card, spec, dataset.columns)}
        fileName={`${dataset.name} ${studyName(study, [card])}`.replace(/[^\w .-]/g, "")}
        pointsAddress={`/api/studies/${study.id}/points.csv`}
        pointsName={props.pointsName}
        busy={outcome.isFetching}
        switches={props.switches ?? []}
        onBack={search.figure ? () => show(undefined) : undefined}
      >
        <div className="flex h-full flex-col">
          {above}
          <div ref={props.below} className="relative min-h-0 flex-1 overflow-hidden">
            {!complete && !answer && (above ? <HalfTyped /> : <Incomplete />)}
            {complete && <Working query={outcome} queryKey={props.asked} />}
            {complete && failed && <Problem thrown={outcome.error} />}
            {complete && !failed && !answer && outcome.isFetching && <Loading what="the answer" />}
            {answer && children}
          </div>
        </div>
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
          onOffer={onOffer}
          onChoose={() => undefined}
        >
          {props.aside}
        </Margin>
      )}
      {answer && ledger && <Ledger {...ledger} formulas={card.formulas} />}
    </div>
  );
}

function HalfTyped() {
  return (
    <Empty title="A number is still missing">
      <p>Type it above, and the answer follows with every key.</p>
    </Empty>
  );
}
