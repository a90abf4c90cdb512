import { useQuery, useQueryClient } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { api, isFinal, problemOf, type Schema, unwrapResponse } from "../../api/client";
import { type Gauge, gaugeQuery, useGaugeChange } from "../../api/queries";
import { typedNumber } from "../../lib/format";
import { toneColour } from "../../marks/tone";
import { Button } from "../../parts/button";
import { ConfirmButton } from "../../parts/confirm-button";
import { notifyProblem } from "../../parts/notices";
import { SavedField } from "../../parts/saved-field";
import { Loading, Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { OverTime } from "./over-time";
import { dueWords, gaugeWords, isLate, standingOf } from "./words";

const route = getRouteApi("/gauges/$id");

/** One gauge: what it is, what its studies said over time, what it measures, when the next study is due. */
export function GaugeScreen() {
  const { id } = route.useParams();
  const { data, error } = useQuery(gaugeQuery(id));
  if (isFinal(error, data)) return <Problem thrown={error} />;
  return data ? <Page key={id} gauge={data} /> : <Loading what="the gauge" />;
}

type Properties = Schema["GaugeChange"];

function Page({ gauge }: { gauge: Gauge }) {
  const navigate = useNavigate();
  const { save, problem } = useProperties(gauge);
  const { tone, words } = standingOf(gauge);
  const remove = () =>
    unwrapResponse(api.DELETE("/api/gauges/{id}", { params: { path: { id: gauge.id } } }))
      .then(() => navigate({ to: "/gauges" }))
      .catch(notifyProblem);
  const text = (key: "name" | "number" | "measures" | "unit" | "note", label: string) => (
    <SavedField label={label} value={gauge[key] ?? ""} onSave={(value) => save({ [key]: value })} />
  );
  const number = (key: "resolution" | "months", label: string) => (
    <SavedField
      label={label}
      numeric
      value={gauge[key] == null ? "" : String(gauge[key])}
      onSave={(value) => save({ [key]: typedNumber(value) })}
    />
  );
  return (
    <>
      <TopLine>
        <Link to="/gauges" className="hover:text-moss">
          Gauges
        </Link>
        <Then />
        <span className="font-semibold text-ink">{gaugeWords(gauge)}</span>
        <span className="flex-1" />
        <ConfirmButton onConfirm={remove}>Delete gauge</ConfirmButton>
      </TopLine>
      <main className="flex min-h-0 flex-1 gap-7 overflow-y-auto px-6 pb-6 pt-3.5 max-lg:flex-col max-lg:px-3">
        <div className="min-w-0 flex-1">
          <div className="flex flex-wrap items-center gap-2.5">
            <h1 className="flex-1 font-serif text-2xl font-semibold">
              <span style={{ color: toneColour(tone) }}>{words}</span>
              {gauge.next && <span className={isLate(gauge) ? "text-clay" : ""}>{`; ${dueWords(gauge)}`}</span>}
            </h1>
            <Button look="primary" onClick={() => navigate({ to: "/plan", search: { gauge: gauge.id } })}>
              Plan a gauge study
            </Button>
          </div>
          <h2 className="mb-2 mt-5 font-serif text-xl font-semibold">Studies</h2>
          {gauge.records.length === 0 && (
            <p className="text-ink-soft">
              None yet. Plan a study, fill its sheet, and record it here from the page of its answer.
            </p>
          )}
          <OverTime records={gauge.records} next={gauge.next ?? null} late={isLate(gauge)} />
          <Records gauge={gauge} />
          <h2 className="mb-2 mt-5 font-serif text-xl font-semibold">What it measures</h2>
          {gauge.columns.length === 0 && (
            <p className="text-ink-soft">
              Nothing yet. Name the gauge in the properties of a column on its Data page: every capability study and
              chart of it then says how much of the spread is measuring.
            </p>
          )}
          <ul className="flex flex-col gap-1.5">
            {gauge.columns.map((column) => (
              <li key={column.column_id}>
                <Link
                  to="/data/$id"
                  params={{ id: column.dataset_id }}
                  search={{ column: column.column_id }}
                  className="inline-block rounded-lg border border-hairline bg-sheet px-3 py-1.5 hover:border-moss"
                >
                  <span className="font-semibold">{column.column}</span>{" "}
                  <span className="text-ink-soft">in {column.dataset}</span>
                </Link>
              </li>
            ))}
          </ul>
        </div>
        <aside aria-label="What it is" className="w-[292px] shrink-0 max-lg:w-full">
          <h2 className="font-serif text-lg font-semibold">What it is</h2>
          <div className="mt-2 flex flex-col gap-1.5">
            {text("name", "name")}
            {text("number", "number")}
            {text("measures", "measures")}
            {text("unit", "unit")}
            {number("resolution", "resolution")}
            {number("months", "months")}
            {text("note", "remark")}
          </div>
          <p className="mt-2 text-[13px] text-ink-soft">
            Months from one study to the next; empty when none is asked for.
          </p>
          {problem && (
            <p role="alert" className="mt-2 text-clay">
              {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
            </p>
          )}
        </aside>
      </main>
    </>
  );
}

/** Saves properties one after the other, each on top of what is stored by then. */
function useProperties(gauge: Gauge) {
  const queries = useQueryClient();
  const change = useGaugeChange(gauge.id, (part: Partial<Properties>) => {
    const now = queries.getQueryData(gaugeQuery(gauge.id).queryKey) ?? gauge;
    const { name, number, measures, unit, resolution, months, note, revision } = now;
    return unwrapResponse(
      api.PUT("/api/gauges/{id}", {
        params: { path: { id: gauge.id } },
        body: { name, number, measures, unit, resolution, months, note, ...part, revision },
        // A change made while the page is closing still arrives.
        keepalive: true,
      }),
    );
  });
  return { save: change.mutateAsync, problem: change.error ? problemOf(change.error) : null };
}

function Records({ gauge }: { gauge: Gauge }) {
  const forget = useGaugeChange(gauge.id, (record: number) =>
    unwrapResponse(api.DELETE("/api/gauges/{id}/records/{record}", { params: { path: { id: gauge.id, record } } })),
  );
  return (
    <ol>
      {gauge.records.map((record) => (
        <li key={record.id} className="flex items-start gap-3 border-t border-hairline py-2">
          <span className="w-24 shrink-0 text-ink-soft">{record.day}</span>
          <div className="min-w-0 flex-1">
            <p>{record.sentence}</p>
            <p className="text-[13px] text-ink-soft">
              {record.study_id ? (
                <Link
                  to="/study/$id"
                  params={{ id: record.study_id }}
                  className="font-semibold text-moss hover:underline"
                >
                  {record.characteristic}
                </Link>
              ) : (
                record.characteristic
              )}{" "}
              in {record.dataset}, as it stood that day
            </p>
          </div>
          <ConfirmButton onConfirm={() => forget.mutate(record.id, { onError: notifyProblem })}>
            Take back
          </ConfirmButton>
        </li>
      ))}
    </ol>
  );
}
