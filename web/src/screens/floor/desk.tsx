import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, isFinal, problemOf, taken } from "../../api/client";
import {
  type Collection,
  entriesQuery,
  floorQuery,
  type Plan,
  planQuery,
  type Standing,
  versionsQuery,
} from "../../api/floor";
import { datasetQuery } from "../../api/queries";
import { moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { ConfirmButton } from "../../parts/confirm-button";
import { notifyProblem } from "../../parts/notices";
import { Loading, Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { Entries } from "./entries";
import { Text } from "./fields";
import { PlanForm } from "./plan-form";
import { Watch } from "./watch";
import { collects, dueWords, missedWords } from "./words";

/** The desk of a plan: what is due, what waits for a cause, what was entered, and the plan itself. */
export function FloorDesk() {
  const { id } = useParams({ from: "/floor/$id" });
  const { data: plan, error } = useQuery(planQuery(id));
  const standing = useQuery(floorQuery).data?.find((one) => one.plan.id === id);
  if (isFinal(error, plan)) return <Problem thrown={error} />;
  if (!plan) return <Loading what="the plan" />;
  return <Desk key={plan.id} plan={plan} standing={standing} />;
}

function Desk({ plan, standing }: { plan: Collection; standing: Standing | undefined }) {
  const dataset = useQuery(datasetQuery(plan.dataset_id)).data;
  const entries = useQuery(entriesQuery(plan.id)).data ?? [];
  const [editing, setEditing] = useState<Plan | null>(null);
  const [thrown, setThrown] = useState<unknown>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const problem = thrown === null ? null : problemOf(thrown);
  const save = async () => {
    if (!editing) return;
    try {
      const body = { version: plan.version, plan: editing };
      const stored = await taken(api.PUT("/api/floor/plans/{id}", { params: { path: { id: plan.id } }, body }));
      queries.setQueryData(planQuery(plan.id).queryKey, stored as Collection);
      queries.invalidateQueries({ queryKey: ["floor"] });
      setEditing(null);
      setThrown(null);
    } catch (error) {
      setThrown(error);
    }
  };
  const remove = async () => {
    try {
      await taken(api.DELETE("/api/floor/plans/{id}", { params: { path: { id: plan.id } } }));
      await queries.invalidateQueries({ queryKey: ["floor"] });
      navigate({ to: "/floor" });
    } catch (error) {
      notifyProblem(error);
    }
  };
  return (
    <>
      <TopLine>
        <Link to="/floor" className="hover:text-ink">
          Floor
        </Link>
        <Then />
        <span className="truncate font-semibold text-ink">{plan.plan.name}</span>
        <span className="text-[13px]">version {plan.version}</span>
        <span className="flex-1" />
        <ConfirmButton onConfirm={remove}>Delete plan</ConfirmButton>
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-8 pt-4">
        <h1 className="font-serif text-2xl font-semibold first-letter:uppercase">{collects(plan)}</h1>
        <p className="mb-4 text-ink-soft">
          into{" "}
          <Link to="/data/$id" params={{ id: plan.dataset_id }} className="underline decoration-dotted">
            {dataset?.name}
          </Link>
        </p>
        {editing ? (
          <section aria-label="The plan">
            <div className="mb-4">
              <Text
                label="name of the plan"
                wide="w-72"
                value={editing.name}
                onChange={(name) => setEditing({ ...editing, name })}
              />
            </div>
            <PlanForm plan={editing} dataset={dataset} infos={{}} onPlan={setEditing} onInfos={() => undefined} />
            {problem && (
              <p role="alert" className="mt-3 text-clay">
                {problem.detail[0]?.toUpperCase()}
                {problem.detail.slice(1)}. <span className="text-ink-soft">{problem.advice}</span>
              </p>
            )}
            <div className="mt-4 flex gap-3">
              <Button look="primary" onClick={save}>
                Follow this from now on
              </Button>
              <Button onClick={() => setEditing(null)}>Leave it as it is</Button>
            </div>
          </section>
        ) : (
          <div className="flex flex-col gap-6">
            <Stations plan={plan} standing={standing} />
            {dataset && <Watch plan={plan} dataset={dataset} enough={standing?.enough ?? 0} />}
            <Entries plan={plan} entries={entries} />
            <section aria-label="Versions">
              <div className="flex items-center gap-3">
                <h2 className="font-serif text-[19px] font-semibold">The plan</h2>
                <Button onClick={() => setEditing(plan.plan)}>Change it</Button>
              </div>
              <Versions plan={plan} />
            </section>
          </div>
        )}
      </main>
    </>
  );
}

function Stations({ plan, standing }: { plan: Collection; standing: Standing | undefined }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const add = async () => {
    try {
      await taken(api.POST("/api/floor/plans/{id}/stations", { params: { path: { id: plan.id } }, body: { name } }));
      setName("");
      for (const key of ["plan", "floor"]) queries.invalidateQueries({ queryKey: [key] });
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  return (
    <section aria-label="Stations">
      <h2 className="mb-1.5 font-serif text-[19px] font-semibold">Stations</h2>
      <ul className="flex flex-col gap-2">
        {plan.stations.map((station, at) => {
          const due = standing?.due[at];
          return (
            <li key={station.id} className="flex flex-wrap items-center gap-x-4 gap-y-1">
              <Link
                to="/station/$id"
                params={{ id: station.id }}
                className="inline-flex min-h-9 items-center rounded-lg border border-moss px-3.5 font-semibold text-moss hover:bg-tint"
              >
                {station.name}
              </Link>
              {due && <span className={due.late ? "font-semibold text-clay" : ""}>{dueWords(due)}</span>}
              {due && <span className="text-ink-soft">{missedWords(due)}</span>}
              <details className="text-[13px] text-ink-soft">
                <summary className="cursor-pointer">its gauge</summary>
                <p>
                  key <code className="select-all text-ink">{station.key}</code>, lines like{" "}
                  <code>{station.pattern}</code>
                </p>
              </details>
            </li>
          );
        })}
      </ul>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Text label="another station" value={name} onChange={setName} />
        <Button type="submit" disabled={name.trim() === ""}>
          Add
        </Button>
      </form>
    </section>
  );
}

function Versions({ plan }: { plan: Collection }) {
  const versions = useQuery(versionsQuery(plan)).data ?? [];
  return (
    <ol className="mt-2 text-ink-soft">
      {versions.map(({ version, at, plan: stated }) => (
        <li key={version}>
          version {version}, {moment(at)}: {collects({ ...plan, plan: stated })}
        </li>
      ))}
    </ol>
  );
}
