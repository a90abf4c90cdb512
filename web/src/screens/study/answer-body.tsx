import { useQuery } from "@tanstack/react-query";
import { getRouteApi, useNavigate } from "@tanstack/react-router";
import { use, useEffect, useRef, useState } from "react";
import { api, isFinal, problemOf, type Schema, unwrapResponse } from "../../api/client";
import { type Dataset, type Spec, type Study, studiesQuery, useCreateStudy } from "../../api/queries";
import { rangesOf, rowAddress } from "../../lib/row-ranges";
import { useSize } from "../../lib/use-size";
import { Button } from "../../parts/button";
import { notify, notifyProblem } from "../../parts/notices";
import { Empty, Loading, Problem } from "../../parts/states";
import { type Actions, figureOf, type Stretch, shownIn } from "../../study/figure";
import { FigureFrame, type Switch } from "../../study/figure-frame";
import { Ledger } from "../../study/ledger";
import { Margin } from "../../study/margin";
import { RecordGauge } from "../../study/record-gauge";
import { SignalCard } from "../../study/signal-card";
import { CountsForm } from "../../study/statement/counts-form";
import { TypedForm } from "../../study/statement/typed-form";
import { statementWords, withOptions } from "../../study/statement/words";
import { studyName } from "../../study/study-name";
import { subjectWords } from "../../study/subject-words";
import { useAnswer } from "../../study/use-answer";
import { useSignals } from "../../study/use-signals";
import { useStretch } from "../../study/use-stretch";
import { Working } from "../../study/working";
import type { useStudyChange } from "./use-study-change";

type AnswerProps = {
  study: Study;
  dataset: Dataset;
  card: Schema["MethodCard"];
  change: ReturnType<typeof useStudyChange>["change"];
};

const route = getRouteApi("/study/$id");
/** What someone stopped can be asked for again. */
const STOPPED = "/problems/stopped";

/** Figure, margin and ledger of an answer of any method, with its states: incomplete, loading, refused. */
export function AnswerBody({ study, dataset, card, change }: AnswerProps) {
  const { spec } = study;
  const figure = use(figureOf(card.method));
  const search = route.useSearch();
  const navigate = useNavigate();
  const create = useCreateStudy();
  const studies = useQuery(studiesQuery).data ?? [];
  const sheet = useRef<HTMLDivElement>(null);
  const drawn = useRef<SVGSVGElement>(null);
  const [room, size] = useSize<HTMLDivElement>();
  const [lit, setLit] = useState<string | null>(null);
  const shown = shownIn(figure, study);
  const [total, setTotal] = useState(dataset.row_count);
  const stretch = useStretch(total);
  const points = figure.points?.(size.width);
  const view = figure.total && !stretch.whole ? { ...stretch.stretch, points } : points ? { points } : {};
  const { answer, shown: query, asked, typed, waits, attempt } = useAnswer(study, dataset, card, view);
  const numbers = answer?.numbers;
  // Subgroups make fewer points than rows.
  useEffect(() => {
    if (numbers && figure.total) setTotal(figure.total(numbers));
  }, [numbers, figure]);
  const withSignals = figure.total !== undefined && answer !== undefined;
  const { signals, choose, walk, say } = useSignals(study, dataset, search.signal, withSignals);
  const present = signals?.signals.find((one) => one.address === search.signal);
  const past = signals?.past.find((one) => one.address === search.signal);
  const at = present ?? past;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a newly chosen signal moves the figure
  useEffect(() => {
    if (at?.first != null && at.last != null) stretch.reveal({ first: at.first, last: at.last });
  }, [at?.address]);

  const set = (options: Record<string, unknown>) => change({ spec: (spec: Spec) => withOptions(spec, options) });
  const show = (figure: string | undefined) =>
    navigate({ to: "/study/$id", params: { id: study.id }, search: (before) => ({ ...before, figure }) });
  /** The rows of a stretch of points, or all of them. */
  const openRows = async (stretch: Stretch | null) => {
    const request = { params: { path: { id: study.id }, query: stretch ?? undefined } };
    const rows = stretch && rowAddress(await unwrapResponse(api.GET("/api/studies/{id}/rows", request)));
    // Rows too many to name are named by the points that they stand behind.
    const named = rows ? { rows } : { study: study.id, ...stretch };
    navigate({ to: "/data/$id", params: { id: dataset.id }, search: stretch ? named : {} });
  };
  const ask = async (wanted: Spec, same: (other: Spec) => boolean) => {
    const there = studies.find((other) => other.dataset_id === study.dataset_id && same(other.spec));
    const { id } = there ?? (await create.mutateAsync(wanted));
    navigate({ to: "/study/$id", params: { id } });
  };
  const actions: Actions = {
    set,
    change: (spec) => change({ spec }),
    attempt,
    show,
    closer: stretch.closer,
    openRows: (rows) => openRows(rows).catch(notifyProblem),
    openIds: (ids) => {
      const rows = rowAddress(rangesOf(ids));
      if (rows) navigate({ to: "/data/$id", params: { id: dataset.id }, search: { rows } });
      else notify("These are too many rows apart from each other to be named one by one; take fewer.");
    },
    ask: (spec, same) => ask(spec, same).catch(notifyProblem),
    choose,
    light: setLit,
  };
  const onOffer = (offer: Schema["Offer"]) => {
    if (offer.figure) show(offer.figure);
    if (offer.options) set(offer.options);
  };
  const wanted = search.figure ? figure.views?.[search.figure] : undefined;
  const other = numbers && wanted?.unless(numbers) === undefined ? wanted : undefined;
  const Drawing = other?.Drawing ?? figure.Drawing;
  const margin = (numbers && other?.margin?.(numbers)) ?? answer;
  const subject = study.subject?.columns[0];
  const name = subjectWords(study);
  const switches: Switch[] = [
    ...(figure.switches ?? []).map(({ key, label, unless }) => ({
      label,
      on: shown[key] ?? false,
      onSwitch: (on: boolean) => change({ shown: { [key]: on } }),
      unless: numbers && unless?.(numbers),
    })),
    ...Object.entries(figure.views ?? {}).flatMap(([key, { label, unless }]) =>
      label ? [{ label, on: false, onSwitch: () => show(key), unless: numbers && unless(numbers) }] : [],
    ),
  ];
  const failed = isFinal(query.error, query.data) && !answer;
  const unanswered = figure.Unanswered !== undefined && !answer && (waits || (failed && !isStopped(query.error)));
  return (
    <div className="relative flex min-h-0 flex-1 gap-[22px] pb-[51px] max-lg:flex-none max-lg:flex-col max-lg:pb-0">
      <FigureFrame
        frame={sheet}
        figure={drawn}
        caption={statementWords(study.statement)}
        fileName={`${dataset.name} ${studyName(study, [card])}`.replace(/[^\w .-]/g, "").trim()}
        tablesAddress={`/api/studies/${study.id}`}
        statement={JSON.stringify(spec, null, 2)}
        pointsName={figure.pointsName}
        printAddress={`/study/${study.id}/print`}
        busy={query.isFetching}
        stretch={stretch.whole ? null : stretch.stretch}
        onZoom={figure.total && stretch.zoom}
        onMove={stretch.move}
        onBack={search.figure ? () => show(undefined) : undefined}
        switches={switches}
      >
        <div className="flex h-full flex-col">
          {typed?.kind === "counts" && (
            <CountsForm key={`${study.id} ${typed.name}`} slot={typed} spec={spec} onTry={attempt} onSave={set} />
          )}
          {typed?.kind === "typed" && (
            <TypedForm key={`${study.id} ${typed.name}`} slot={typed} spec={spec} onTry={attempt} onSave={set} />
          )}
          <div ref={room} className="relative min-h-0 flex-1 overflow-hidden">
            {unanswered && figure.Unanswered && (
              <figure.Unanswered
                spec={spec}
                dataset={dataset}
                actions={actions}
                problem={failed ? query.error : undefined}
              />
            )}
            {waits && !answer && !unanswered && (typed ? <HalfTyped /> : <Incomplete />)}
            {!waits && <Working study={study.id} query={query} queryKey={asked} />}
            {!waits && failed && !unanswered && (
              <Problem thrown={query.error}>
                {problemOf(query.error).type === STOPPED && <Button onClick={() => query.refetch()}>Ask again</Button>}
              </Problem>
            )}
            {!waits && !failed && !answer && query.isFetching && <Loading what="the answer" />}
            {answer && numbers && size.width > 0 && (
              <Drawing
                numbers={numbers}
                notes={answer.notes}
                spec={spec}
                dataset={dataset}
                name={name}
                limits={answer.limits}
                size={size}
                view={stretch.stretch}
                shown={shown}
                signals={signals}
                chosen={search.signal ?? null}
                lit={lit}
                figure={drawn}
                actions={actions}
              />
            )}
          </div>
        </div>
      </FigureFrame>
      {answer && margin && (
        <Margin
          verdict={margin.verdict}
          notes={margin.notes}
          next={answer.next}
          study={study}
          dataset={dataset}
          signals={other ? undefined : signals}
          lit={lit}
          onLight={setLit}
          onOffer={onOffer}
          onChoose={choose}
          onOpenRows={actions.openRows}
        >
          {numbers && figure.aside?.(numbers, name)}
          {answer.of_gauge && (
            <RecordGauge study={study} dataset={dataset} subject={subject} verdict={answer.verdict} />
          )}
          {at && search.signal && (
            <SignalCard
              key={search.signal}
              sentence={present?.sentence ?? past?.finding.sentence ?? ""}
              finding={present ? present.finding : past?.finding}
              causes={signals?.causes ?? []}
              place={1 + (present ? (signals?.signals.indexOf(present) ?? -1) : -1)}
              of={signals?.total ?? 0}
              onSay={(said) => search.signal && say(search.signal, said)}
              onWalk={walk}
              onClose={() => choose(undefined)}
            />
          )}
        </Margin>
      )}
      {answer && (
        <Ledger
          study={study}
          dataset={dataset}
          answer={answer}
          formulas={card.formulas}
          pointsName={figure.pointsName ?? "Points"}
          onOpenRows={(stretch) => openRows(stretch).catch(notifyProblem)}
        />
      )}
    </div>
  );
}

const isStopped = (error: unknown) => problemOf(error).type === STOPPED;

function HalfTyped() {
  return (
    <Empty title="A number is still missing">
      <p>Type it above, and the answer follows with every key.</p>
    </Empty>
  );
}

function Incomplete() {
  return (
    <Empty title="The statement has an empty slot">
      <p>Fill it above, and the figure follows at once.</p>
    </Empty>
  );
}
