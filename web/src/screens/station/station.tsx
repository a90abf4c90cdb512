import { useQueries, useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, isFinal, unwrapResponse } from "../../api/client";
import { type Collection, floorQuery, listsQuery, type Station, type StoredEntry } from "../../api/floor";
import { datasetQuery, outcomeQuery, studyQuery } from "../../api/queries";
import { newKey } from "../../lib/new-key";
import { Loading, Problem } from "../../parts/states";
import { dueWords } from "../floor/words";
import { Ask } from "./ask";
import { Cards } from "./cards";
import { StationChart } from "./chart";
import { Made } from "./made";
import { newestSignals, type Occasion, ofEntry } from "./occasions";
import type { Sent } from "./queue";
import { React } from "./react";
import { Refused } from "./refused";
import { begun, type Draft, entryOf, nextOf, type Step, withoutLast, withValue } from "./steps";
import { Tally } from "./tally";
import { useEntering } from "./use-entering";
import { useEntryDraft } from "./use-entry-draft";
import { useOffline } from "./use-offline";
import { useReadings } from "./use-readings";
import { hasSerial, useSerial } from "./use-serial";

/** The page of a station: one thing is asked at a time, and nothing else stands in the way. */
export function StationScreen() {
  const { id } = useParams({ from: "/station/$id" });
  useOffline();
  const { data, error } = useQuery(floorQuery);
  const standing = data?.find(({ plan }) => plan.stations.some((station) => station.id === id));
  const station = standing?.plan.stations.find((one) => one.id === id);
  if (isFinal(error, data)) return <Problem thrown={error} />;
  if (!data) return <Loading what="the station" />;
  if (!standing || !station)
    return (
      <div className="p-8 text-[22px]">
        <p>There is no such station, or no longer.</p>
        <Link to="/floor" className="font-semibold text-moss underline">
          All stations
        </Link>
      </div>
    );
  const due = standing.due[standing.plan.stations.indexOf(station)];
  return (
    <AtStation
      key={station.id}
      collection={standing.plan}
      station={station}
      due={due ? dueWords(due) : ""}
      enough={standing.enough}
    />
  );
}

type Props = { collection: Collection; station: Station; due: string; enough: number };

function AtStation({ collection, station, due, enough }: Props) {
  const { plan } = collection;
  const lists = useQuery(listsQuery).data ?? [];
  const dataset = useQuery(datasetQuery(collection.dataset_id)).data;
  const charts = useQueries({ queries: collection.study_ids.map((id) => studyQuery(id)) });
  const [draft, setDraft] = useEntryDraft(station.id, plan);
  const step = nextOf(plan, draft);
  // The chart of what is asked for, else the first.
  const studies = charts.flatMap(({ data }) => data ?? []);
  const study = studies.find(({ subject }) => step && subject?.columns.includes(step.column)) ?? studies[0];
  const { data: outcome } = useQuery({
    ...outcomeQuery(study, dataset, { points: 400 }),
    enabled: study !== undefined,
  });
  const [last, setLast] = useState<StoredEntry | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const [occasions, setOccasions] = useState<Occasion[]>([]);
  const [causes, setCauses] = useState<string[]>([]);
  const [remarking, setRemarking] = useState(false);
  const { reading, heard, take } = useReadings(station.id);
  const serial = useSerial(station.key);
  const who = plan.identifiers.filter(({ person }) => person).map(({ column }) => draft.said[column])[0] ?? "";

  const onSent = async (sent: Sent[]) => {
    const stored = sent.flatMap(({ stored }) => (stored ? [stored] : []));
    setLast((now) => stored.at(-1) ?? now);
    if (stored.length > 0) setRefused(null);
    const found = sent.flatMap(({ stored, happened }) => (stored && happened ? [ofEntry(stored.id, happened)] : []));
    // Those of a service that is gone again stay on the list of the desk.
    const signals = stored.length > 0 ? await newestSignals(station.id).catch(() => null) : null;
    setCauses(signals?.causes ?? []);
    setOccasions((now) => [...now, ...found, ...(signals?.occasions ?? [])]);
  };
  const { enter, pending, reached, broken, aside, drop } = useEntering(station.id, onSent);

  const store = (whole: Draft) => {
    setDraft(begun(plan, whole));
    setRemarking(false);
    enter(entryOf(whole, newKey(), new Date())).catch(() =>
      setRefused("This device can keep no entries. What was entered was not stored; write it down and tell the desk."),
    );
  };
  const give = (value: string | number, confirmed: boolean) => {
    if (!step) return;
    const next = withValue({ ...draft, confirmed: draft.confirmed || confirmed }, step, value);
    if (nextOf(plan, next)) setDraft(next);
    else store(next);
  };
  const takenBack = async () => {
    const inside = withoutLast(plan, draft);
    if (inside) return setDraft(inside.draft);
    if (!last || last.taken_back) return;
    try {
      setLast(
        await unwrapResponse(api.POST("/api/floor/entries/{id}/take-back", { params: { path: { id: last.id } } })),
      );
    } catch {
      setRefused("The last entry could not be taken back just now. Try again.");
    }
  };

  const occasion = occasions[0];
  const numbers = outcome?.numbers.method === "control-chart" ? outcome.numbers : undefined;
  const have = numbers?.points ?? collection.subgroups;
  const given = withoutLast(plan, draft);
  return (
    <div className="flex h-full flex-col bg-paper text-ink">
      <header className="flex min-h-14 flex-wrap items-center gap-x-6 gap-y-1 bg-bark px-5 py-2 text-[19px] text-[#eef2ec] md:px-7">
        <span className="font-serif text-[23px] font-semibold">{plan.name}</span>
        <span>{station.name}</span>
        {plan.identifiers
          .filter(({ column }) => draft.said[column])
          .map(({ column }) => (
            <button
              key={column}
              type="button"
              aria-label={`${column}: ${draft.said[column]}, change`}
              onClick={() =>
                setDraft({
                  ...draft,
                  said: Object.fromEntries(Object.entries(draft.said).filter(([name]) => name !== column)),
                })
              }
              className="min-h-11 rounded-lg px-2 underline decoration-dotted underline-offset-4"
            >
              {draft.said[column]}
            </button>
          ))}
        <span className="flex-1" />
        {due && <span>{due}</span>}
        {hasSerial() && serial.state !== "open" && (
          <button type="button" onClick={serial.connect} className="min-h-11 rounded-lg px-2 underline">
            {serial.state === "lost" ? "gauge was lost, connect again" : "connect a gauge"}
          </button>
        )}
        {heard && <span className="text-[#9fd6bd]">gauge is heard</span>}
        <Link
          to="/floor/$id"
          params={{ id: collection.id }}
          className="flex min-h-11 items-center rounded-lg px-2 underline"
        >
          desk
        </Link>
      </header>
      {occasion ? (
        <React
          key={occasion.sentence}
          occasion={occasion}
          causes={causes.length > 0 ? causes : plan.causes}
          who={who}
          onDone={() => setOccasions((now) => now.slice(1))}
        />
      ) : (
        <main className="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto px-5 py-5 md:px-12">
          {numbers ? (
            <StationChart numbers={numbers} />
          ) : (
            <p className="py-8 text-center text-[22px] text-ink-soft">
              {dataset?.row_count === 0 ? "No value yet." : "No chart yet; the desk sees why."}
            </p>
          )}
          {plan.every && plan.every.pieces > 0 && (
            <Made station={station} every={plan.every.pieces} onProblem={setRefused} />
          )}
          {have < enough && (
            <p className="text-[18px] text-ink-soft">
              {have} of {enough} {plan.measurements.length > 0 && plan.pieces > 1 ? "subgroups" : "values"}: until then
              the limits still move.
            </p>
          )}
          {plan.measurements.length > 0 && plan.pieces > 1 && (
            <Cards
              collection={collection}
              draft={draft}
              step={step}
              decimals={(column) => dataset?.columns.find(({ name }) => name === column)?.decimals}
            />
          )}
          {step?.kind === "count" && plan.counts.defects.includes(step.column) ? (
            <Tally
              kinds={plan.counts.defects}
              onStore={(counts) => store({ ...draft, counts: { ...draft.counts, ...counts } })}
            />
          ) : (
            step && (
              <Ask
                key={JSON.stringify(step)}
                plan={plan}
                step={step}
                lists={lists}
                info={dataset?.columns.find(({ name }) => name === step.column)}
                remark={draft.remark}
                reading={reading}
                onTaken={take}
                onGive={give}
                onRemark={(remark) => setDraft({ ...draft, remark })}
              />
            )
          )}
          <div className="flex flex-wrap gap-3">
            {(given || (last && !last.taken_back)) && (
              <button
                type="button"
                onClick={takenBack}
                className="h-16 rounded-xl border-2 border-hairline bg-sheet px-7 text-[20px]"
              >
                take back {given ? valueWords(draft, given.step) : `the last entry`}
              </button>
            )}
            {remarking ? (
              <input
                // biome-ignore lint/a11y/noAutofocus: it was asked for just now
                autoFocus
                aria-label="Remark"
                value={draft.remark}
                onChange={(event) => setDraft({ ...draft, remark: event.target.value })}
                onKeyDown={(event) => event.key === "Enter" && setRemarking(false)}
                className="h-16 w-96 rounded-xl border-2 border-hairline bg-sheet px-4 text-[20px]"
              />
            ) : (
              <button
                type="button"
                onClick={() => setRemarking(true)}
                className="h-16 rounded-xl border-2 border-hairline bg-sheet px-7 text-[20px]"
              >
                {draft.remark ? `remark: ${draft.remark}` : "a remark"}
              </button>
            )}
          </div>
          <Refused entries={aside} onDrop={drop} />
          {refused && (
            <p role="alert" className="text-[22px] text-clay">
              {refused}
            </p>
          )}
        </main>
      )}
      <footer className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 px-5 text-[18px] text-ink-soft md:px-12">
        <span>{last ? lastWords(last) : ""}</span>
        <span role="status">{standingWords(pending, reached, broken)}</span>
      </footer>
    </div>
  );
}

const valueWords = (draft: Draft, step: Step) =>
  step.kind === "value"
    ? String(draft.pieces[step.piece]?.[step.column] ?? "")
    : String(draft.counts[step.column] ?? "");

function lastWords({ at, subgroup, taken_back }: StoredEntry): string {
  const time = new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return taken_back ? `entry ${subgroup} of ${time} was taken back` : `last entry ${subgroup}, ${time}`;
}

function standingWords(pending: number, reached: boolean, broken: boolean): string {
  if (broken) return "this device cannot keep entries";
  if (pending === 0) return "all entries stored";
  const waits = pending === 1 ? "1 entry waits" : `${pending} entries wait`;
  return reached ? `${waits} to be stored` : `${waits} for the connection`;
}
