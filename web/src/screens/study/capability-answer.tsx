import { useQuery } from "@tanstack/react-query";
import { getRouteApi, useNavigate } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { isFinal, type Schema } from "../../api/client";
import { outcomeQuery, type Spec } from "../../api/queries";
import { BarsTable, NumbersTable, shortNumbers } from "../../figures/capability/ledger";
import { Need } from "../../figures/capability/need";
import { OneScale } from "../../figures/capability/one-scale";
import { Shapes } from "../../figures/capability/shapes";
import { writerOf } from "../../lib/format";
import { useSize } from "../../lib/use-size";
import { Dial } from "../../marks/dial";
import { columnsOf, isComplete, withOptions } from "../../study/statement/words";
import type { AnswerProps } from "./answer";
import { AnswerBody } from "./answer-body";

const route = getRouteApi("/study/$id");

/** "Can it meet the limits?" answered: one scale, the shapes compared, or how many values are needed. */
export function CapabilityAnswer(props: AnswerProps) {
  const { study, dataset, card, change } = props;
  const { spec } = study;
  const navigate = useNavigate();
  const search = route.useSearch();
  const [frame, size] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const [withSpread, setWithSpread] = useState(false);
  const complete = isComplete(card, spec);
  const points = Math.max(100, Math.round(size.width / 4));
  const query = outcomeQuery(study, dataset, { points });
  const outcome = useQuery({ ...query, enabled: complete });
  const answer = complete && !isFinal(outcome.error, outcome.data) ? outcome.data : undefined;
  const numbers = answer?.numbers as Schema["CapabilityNumbers"] | undefined;
  const set = (options: Record<string, unknown>) => change({ spec: (spec: Spec) => withOptions(card, spec, options) });
  const show = (figure: string | undefined) =>
    navigate({ to: "/study/$id", params: { id: study.id }, search: (before) => ({ ...before, figure }) });
  const name = columnsOf(spec, "measure").join();
  const ready = numbers && size.width > 0;
  const compares = search.figure === "shapes" && (numbers?.shapes.length ?? 0) > 0;
  const needs = search.figure === "need" && numbers?.need != null;
  return (
    <AnswerBody
      {...props}
      outcome={outcome}
      asked={query.queryKey}
      answer={answer}
      below={frame}
      figure={figure}
      pointsName="Points"
      switches={[
        { label: "Spread underneath", on: withSpread, onSwitch: setWithSpread },
        {
          label: "Fitted shapes, compared",
          on: false,
          onSwitch: () => show("shapes"),
          unless:
            numbers?.shapes.length === 0
              ? "Take the best of those fitted, in the statement, to compare them."
              : undefined,
        },
        {
          label: "How many values are needed",
          on: false,
          onSwitch: () => show("need"),
          unless: numbers?.need ? undefined : "There is no Ppk to narrow down.",
        },
      ]}
      aside={
        numbers && <Dial limits={numbers.limits} dial={numbers.dial} writer={writerOf(numbers.writer)} name={name} />
      }
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
      {ready && compares && (
        <Shapes
          numbers={numbers}
          size={size}
          figure={figure}
          onTake={(shape) => {
            set({ shape });
            show(undefined);
          }}
        />
      )}
      {ready && needs && (
        <Need
          key={numbers.need?.wanted}
          numbers={numbers}
          size={size}
          figure={figure}
          onWant={(wanted) => set({ wanted })}
        />
      )}
      {ready && !compares && !needs && (
        <>
          <OneScale numbers={numbers} name={name} size={size} figure={figure} withSpread={withSpread} />
          <button
            type="button"
            aria-expanded={withSpread}
            onClick={() => setWithSpread(!withSpread)}
            className="no-print absolute bottom-[70px] left-[180px] rounded-md px-1.5 text-[13px] font-medium text-moss hover:bg-tint"
          >
            {withSpread ? "▾ spread" : "▸ spread"}
          </button>
        </>
      )}
    </AnswerBody>
  );
}
