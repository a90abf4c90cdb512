import { useQuery } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { useMemo, useRef, useState } from "react";
import { api, isFinal, type Schema, taken } from "../../api/client";
import {
  type Dataset,
  datasetQuery,
  methodsQuery,
  outcomeQuery,
  type Study,
  studyQuery,
  useSummary,
} from "../../api/queries";
import { ControlChart } from "../../figures/control-chart/control-chart";
import { NumbersTable, PointsTable, shortNumbers } from "../../figures/control-chart/ledger";
import { moment, writer } from "../../lib/format";
import { useSize } from "../../lib/use-size";
import { ConfirmButton } from "../../parts/confirm-button";
import { EditableTitle } from "../../parts/editable-title";
import { useUndoKey } from "../../parts/keys";
import { notifyProblem } from "../../parts/notices";
import { Empty, Loading, Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { FigureFrame } from "../../study/figure-frame";
import { Ledger } from "../../study/ledger";
import { Margin } from "../../study/margin";
import { Statement, statementWords, withSlot } from "../../study/statement/statement";
import { studyName } from "../../study/study-name";
import { useStretch } from "./use-stretch";
import { useStudyChange } from "./use-study-change";

const route = getRouteApi("/study/$id");
const NO_LIMITS = {};

/** One saved question: statement, figure, margin, ledger. */
export function StudyScreen() {
  const { id } = route.useParams();
  const study = useQuery(studyQuery(id));
  const dataset = useQuery({ ...datasetQuery(study.data?.dataset_id ?? 0), enabled: study.data !== undefined });
  const methods = useQuery(methodsQuery);
  const failed = [study, dataset, methods].find(({ error, data }) => isFinal(error, data));
  if (failed) return <Problem thrown={failed.error} />;
  const card = methods.data?.find((card) => card.method === study.data?.spec.method);
  if (!study.data || !dataset.data || !methods.data) return <Loading what="the study" />;
  if (!card) return <Problem thrown={new Error(`This version cannot answer “${study.data.spec.method}”.`)} />;
  return <Answer key={id} study={study.data} dataset={dataset.data} card={card} />;
}

type AnswerProps = { study: Study; dataset: Dataset; card: Schema["MethodCard"] };

function Answer({ study, dataset, card }: AnswerProps) {
  const summary = useSummary(dataset);
  const [frame, size] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const [lit, setLit] = useState<string | null>(null);
  const { stretch, whole, zoom, move } = useStretch(dataset.row_count);
  const { change, undo } = useStudyChange(study.id);
  useUndoKey(undo);
  const navigate = useNavigate();
  const remove = () =>
    taken(api.DELETE("/api/studies/{id}", { params: { path: { id: study.id } } }))
      .then(() => navigate({ to: "/data/$id", params: { id: dataset.id } }))
      .catch(notifyProblem);

  const place = dataset.columns.findIndex((column) => column.name === study.spec.roles?.measure);
  const column = dataset.columns[place];
  const write = useMemo(
    () => writer(column?.decimals ?? summary.data?.[place]?.decimals ?? 3, column?.unit),
    [column, summary.data, place],
  );
  const points = Math.max(200, Math.round(size.width / 2));
  const complete = card.slots.every(
    (slot) => slot.filling !== "column" || !slot.required || study.spec.roles?.[slot.name],
  );
  const outcome = useQuery({
    ...outcomeQuery(study, dataset, whole ? { points } : { ...stretch, points }),
    enabled: complete,
  });
  const failed = isFinal(outcome.error, outcome.data);
  const name = studyName(study, [card]);

  return (
    <>
      <TopLine>
        <Link to="/data/$id" params={{ id: dataset.id }} className="truncate hover:text-moss">
          {dataset.name}
        </Link>
        <Then />
        <EditableTitle what="study" name={name} onRename={(name) => change({ name })} />
        <span className="whitespace-nowrap text-[13px]">saved {moment(study.updated_at)}</span>
        <span className="flex-1" />
        <ConfirmButton onConfirm={remove}>Delete study</ConfirmButton>
      </TopLine>
      <main className="flex min-h-0 flex-1 flex-col gap-3 px-6 pb-2.5 pt-3 max-lg:overflow-y-auto max-lg:px-3">
        <Statement
          card={card}
          spec={study.spec}
          dataset={dataset}
          onChange={(slot, value) => change({ spec: (spec) => withSlot(spec, slot, value) })}
        />
        <div className="relative flex min-h-0 flex-1 gap-[22px] pb-[51px] max-lg:flex-none max-lg:flex-col max-lg:pb-0">
          <FigureFrame
            frame={frame}
            figure={figure}
            caption={statementWords(card, study.spec)}
            fileName={`${dataset.name} ${name}`.replace(/[^\w .-]/g, "")}
            pointsAddress={`/api/studies/${study.id}/points.csv`}
            busy={outcome.isFetching}
            stretch={whole ? null : stretch}
            onZoom={zoom}
            onMove={move}
          >
            {!complete && <Incomplete />}
            {complete && failed && <Problem thrown={outcome.error} />}
            {complete && !failed && !outcome.data && <Loading what="the values" />}
            {complete && !failed && outcome.data && size.width > 0 && (
              <ControlChart
                numbers={outcome.data.numbers}
                notes={outcome.data.notes}
                name={column?.name ?? ""}
                order={orderWords(study)}
                limits={column ?? NO_LIMITS}
                baseline={baselineOf(study)}
                writer={write}
                size={size}
                view={stretch}
                lit={lit}
                onLight={setLit}
                figure={figure}
              />
            )}
          </FigureFrame>
          {complete && !failed && outcome.data && (
            <Margin outcome={outcome.data} datasetId={dataset.id} lit={lit} onLight={setLit} />
          )}
          {complete && !failed && outcome.data && (
            <Ledger
              short={shortNumbers(outcome.data.numbers, write)}
              numbers={<NumbersTable numbers={outcome.data.numbers} writer={write} />}
              points={
                <PointsTable study={study} dataset={dataset} total={outcome.data.numbers.points} writer={write} />
              }
              formulas={card.formulas}
            />
          )}
        </div>
      </main>
    </>
  );
}

function Incomplete() {
  return (
    <Empty title="Choose a measurement">
      <p>The statement above has an empty slot. Fill it and the chart follows at once.</p>
    </Empty>
  );
}

function orderWords(study: Study): string {
  const order = study.spec.roles?.order;
  return typeof order === "string" ? `in the order of ${order}` : "in the order of the rows";
}

function baselineOf(study: Study) {
  const limits = study.spec.options?.limits as { from?: string; first?: number; last?: number } | undefined;
  if (limits?.from !== "baseline" || limits.first === undefined || limits.last === undefined) return null;
  return { first: limits.first, last: limits.last };
}
