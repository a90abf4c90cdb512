import { Link, useNavigate } from "@tanstack/react-router";
import { Suspense } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Dataset, Study } from "../../api/queries";
import { moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { ConfirmButton } from "../../parts/confirm-button";
import { EditableTitle } from "../../parts/editable-title";
import { useTurnKeys } from "../../parts/keys";
import { notifyProblem } from "../../parts/notices";
import { Loading } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { Statement } from "../../study/statement/statement";
import { Trail } from "../../study/statement/trail";
import { studyName } from "../../study/study-name";
import { AnswerBody } from "./answer-body";
import { StudyHistory } from "./study-history";
import { useStudyChange } from "./use-study-change";

type Props = { study: Study; dataset: Dataset; card: Schema["MethodCard"] };

/** A question with its answer under its statement. */
export function Answer({ study, dataset, card }: Props) {
  const navigate = useNavigate();
  const { change, turn, left, settle } = useStudyChange(study.id);
  useTurnKeys(turn);
  const remove = () =>
    unwrapResponse(api.DELETE("/api/studies/{id}", { params: { path: { id: study.id } } }))
      .then(() => (dataset.id ? navigate({ to: "/data/$id", params: { id: dataset.id } }) : navigate({ to: "/ask" })))
      .catch(notifyProblem);
  return (
    <>
      <TopLine>
        {dataset.id > 0 ? (
          <Link to="/data/$id" params={{ id: dataset.id }} className="truncate hover:text-moss">
            {dataset.owned ? "its own table" : dataset.name}
          </Link>
        ) : (
          <Link to="/ask" className="hover:text-moss">
            Ask
          </Link>
        )}
        <Then />
        <EditableTitle what="study" name={studyName(study, [card])} onRename={(name) => change({ name })} />
        <span className="whitespace-nowrap text-[13px]">saved {moment(study.updated_at)}</span>
        <span className="flex-1" />
        <StudyHistory study={study} dataset={dataset} card={card} />
        <ConfirmButton onConfirm={remove}>Delete study</ConfirmButton>
      </TopLine>
      <main className="flex min-h-0 flex-1 flex-col gap-3 px-6 pb-2.5 pt-3 max-lg:overflow-y-auto max-lg:px-3">
        {left.map((draft) => (
          <p
            key={draft.key}
            role="status"
            className="flex flex-wrap items-center gap-x-3 rounded-lg bg-tint px-3 py-1.5"
          >
            You left this page before your last change was saved, and somebody has changed the study since.
            <Button onClick={() => settle(draft, true)}>Apply my change</Button>
            <Button onClick={() => settle(draft, false)}>Discard it</Button>
          </p>
        ))}
        <Trail spec={study.spec} onChange={(spec) => change({ spec })} />
        <Statement
          card={card}
          spec={study.spec}
          statement={study.statement}
          dataset={dataset}
          onChange={(spec) => change({ spec })}
        />
        <Suspense fallback={<Loading what="the figure" />}>
          <AnswerBody study={study} dataset={dataset} card={card} change={change} />
        </Suspense>
      </main>
    </>
  );
}
