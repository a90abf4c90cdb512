import { useQuery } from "@tanstack/react-query";
import { getRouteApi, useNavigate } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { isFinal, type Schema } from "../../api/client";
import { outcomeQuery, type Spec } from "../../api/queries";
import { ControlChart, type Shown } from "../../figures/control-chart/control-chart";
import { NumbersTable, PointsTable, shortNumbers } from "../../figures/control-chart/ledger";
import { LineUp } from "../../figures/control-chart/line-up";
import { rowRanges } from "../../lib/row-ranges";
import { useSize } from "../../lib/use-size";
import { Loading, Problem } from "../../parts/states";
import { FigureFrame } from "../../study/figure-frame";
import { Ledger } from "../../study/ledger";
import { Margin } from "../../study/margin";
import { SignalCard } from "../../study/signal-card";
import { type Cut, columnsOf, cutsOf, isComplete, statementWords, withOptions } from "../../study/statement/words";
import { studyName } from "../../study/study-name";
import { type AnswerProps, Incomplete } from "./answer";
import { useSignals } from "./use-signals";
import { useStretch } from "./use-stretch";

const route = getRouteApi("/study/$id");
const NO_LIMITS = {};
const FENCES_UNLESS =
  "They are about single pieces. Means vary less than pieces, so a mean inside a limit says nothing about the pieces.";

/** "Is it steady?" answered: figure or line-up, margin with signals, ledger. */
export function ControlChartAnswer({ study, dataset, card, change }: AnswerProps) {
  const { spec } = study;
  const search = route.useSearch();
  const navigate = useNavigate();
  const [frame, size] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const [lit, setLit] = useState<string | null>(null);
  const [shown, setShown] = useState<Shown>({ zones: false, fences: true });
  const [total, setTotal] = useState(dataset.row_count);
  const view = useStretch(total);

  const points = Math.max(200, Math.round(size.width / 2));
  const complete = isComplete(card, spec);
  const outcome = useQuery({
    ...outcomeQuery(study, dataset, view.whole ? { points } : { ...view.stretch, points }),
    enabled: complete,
  });
  const failed = isFinal(outcome.error, outcome.data);
  const answer = complete && !failed ? outcome.data : undefined;
  const numbers = answer?.numbers as Schema["ControlChartNumbers"] | undefined;
  // Samples make fewer points than rows.
  useEffect(() => {
    if (numbers) setTotal(numbers.points);
  }, [numbers]);
  const { signals, choose, walk, say } = useSignals(study, dataset, search.signal, answer !== undefined);
  const present = signals?.signals.find((one) => one.address === search.signal);
  const past = signals?.past.find((one) => one.address === search.signal);
  const { reveal } = view;
  const at = present ?? past;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a newly chosen signal moves the figure
  useEffect(() => {
    if (at?.first != null && at.last != null) reveal({ first: at.first, last: at.last });
  }, [at?.address]);

  const set = (options: Record<string, unknown>) => change({ spec: (spec: Spec) => withOptions(card, spec, options) });
  // From the cuts there are by then: a change may come before the one before it is saved.
  const setCuts = (next: (cuts: Cut[]) => Cut[]) =>
    change({ spec: (spec: Spec) => withOptions(card, spec, { cuts: next(cutsOf(spec)) }) });
  const show = (figure: "line-up" | undefined) =>
    navigate({ to: "/study/$id", params: { id: study.id }, search: (before) => ({ ...before, figure }) });
  const onOffer = (offer: Schema["Offer"]) => {
    if (offer.figure === "line-up") show("line-up");
    if (offer.options) set(offer.options);
  };
  const takeChart = (chart: string) => {
    // Blemishes on a fixed amount of product are blemishes per one of it.
    const sized = spec.roles?.size !== undefined || spec.options?.size !== undefined;
    set(sized ? { chart } : { chart, size: 1 });
  };
  const openRows = ({ first, last }: { first: number; last: number }) => {
    const rows = numbers?.panels[0]?.points.filter((point) => point.i >= first && point.i <= last) ?? [];
    const ids = rows.flatMap((point) => point.row_ids);
    navigate({ to: "/data/$id", params: { id: dataset.id }, search: { rows: rowRanges(ids) } });
  };
  const cuts = cutsOf(spec);
  const column = dataset.columns.find((column) => column.name === columnsOf(spec, "measure")[0]);
  const lineUp = search.figure === "line-up" ? numbers?.line_up : undefined;

  return (
    <div className="relative flex min-h-0 flex-1 gap-[22px] pb-[51px] max-lg:flex-none max-lg:flex-col max-lg:pb-0">
      <FigureFrame
        frame={frame}
        figure={figure}
        caption={statementWords(card, spec, dataset.columns)}
        fileName={`${dataset.name} ${studyName(study, [card])}`.replace(/[^\w .-]/g, "")}
        pointsAddress={`/api/studies/${study.id}/points.csv`}
        busy={outcome.isFetching}
        stretch={view.whole ? null : view.stretch}
        onZoom={view.zoom}
        onMove={view.move}
        onBack={lineUp ? () => show(undefined) : undefined}
        switches={[
          {
            label: "Zones of 1 and 2 sd",
            on: shown.zones,
            onSwitch: (zones) => setShown({ ...shown, zones }),
          },
          {
            label: "Specification limits",
            on: shown.fences,
            onSwitch: (fences) => setShown({ ...shown, fences }),
            unless: numbers && !numbers.single_values ? FENCES_UNLESS : undefined,
          },
        ]}
      >
        {!complete && <Incomplete />}
        {complete && failed && <Problem thrown={outcome.error} />}
        {complete && !failed && !answer && <Loading what="the values" />}
        {lineUp && size.width > 0 && (
          <LineUp
            lineUp={lineUp}
            size={size}
            view={view.stretch}
            caption={`${columnsOf(spec, "count").join()}, ${orderWords(spec)}`}
            onTake={takeChart}
            figure={figure}
          />
        )}
        {answer && numbers && !lineUp && size.width > 0 && (
          <ControlChart
            numbers={numbers}
            notes={answer.notes}
            name={chartedName(spec)}
            order={orderWords(spec)}
            limits={column ?? NO_LIMITS}
            baseline={baselineOf(spec)}
            cuts={cuts}
            onMoveCut={(from, to) =>
              setCuts((cuts) => cuts.map((cut) => (cut.first === from ? { ...cut, first: to } : cut)))
            }
            size={size}
            view={view.stretch}
            shown={shown}
            signals={signals}
            chosen={search.signal ?? null}
            onChoose={choose}
            lit={lit}
            onLight={setLit}
            figure={figure}
            onCloser={view.closer}
            onLimitsFrom={({ first, last }) => set({ limits: { from: "baseline", first, last } })}
            onPhaseFrom={(first, name) =>
              setCuts((cuts) => [...cuts.filter((cut) => cut.first !== first), { first, name }].sort(byFirst))
            }
            onOpenRows={openRows}
          />
        )}
      </FigureFrame>
      {answer && (
        <Margin
          verdict={lineUp?.verdict ?? answer.verdict}
          notes={lineUp?.notes ?? answer.notes}
          next={answer.next}
          dataset={dataset}
          signals={lineUp ? undefined : signals}
          lit={lit}
          onLight={setLit}
          onOffer={onOffer}
          onChoose={choose}
        >
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
      {answer && numbers && (
        <Ledger
          short={shortNumbers(numbers)}
          numbers={<NumbersTable numbers={numbers} />}
          points={<PointsTable study={study} dataset={dataset} numbers={numbers} />}
          formulas={card.formulas}
        />
      )}
    </div>
  );
}

const byFirst = (a: { first: number }, b: { first: number }) => a.first - b.first;

/** What is charted, for titles. */
function chartedName(spec: Spec): string {
  const counted = columnsOf(spec, "count").join(", ");
  const measured = columnsOf(spec, "measure");
  const isCount = ["p", "np", "c", "u", "p-prime", "u-prime", "ratio"].includes(String(spec.options?.chart));
  if (isCount || measured.length === 0) return counted;
  return measured.length > 1 ? `${measured[0]} to ${measured.at(-1)}` : (measured[0] ?? "");
}

function orderWords(spec: Spec): string {
  const [order] = columnsOf(spec, "order");
  return order ? `in the order of ${order}` : "in the order of the rows";
}

function baselineOf(spec: Spec) {
  const limits = spec.options?.limits as { from?: string; first?: number; last?: number } | undefined;
  if (limits?.from !== "baseline" || limits.first === undefined || limits.last === undefined) return null;
  return { first: limits.first, last: limits.last };
}
