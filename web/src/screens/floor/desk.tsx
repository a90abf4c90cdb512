import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, isFinal, problemOf, unwrapResponse } from "../../api/client";
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
import { TextField } from "../../parts/fields";
import { notifyProblem } from "../../parts/notices";
import { Loading, Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { Alerts } from "./alerts";
import { Entries } from "./entries";
import { PlanForm } from "./plan-form";
import { Stations } from "./stations";
import { Watch } from "./watch";
import { collects } from "./words";

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
      const stored = await unwrapResponse(
        api.PUT("/api/floor/plans/{id}", { params: { path: { id: plan.id } }, body }),
      );
      queries.setQueryData(planQuery(plan.id).queryKey, stored as Collection);
      setEditing(null);
      setThrown(null);
    } catch (error) {
      setThrown(error);
    }
  };
  const remove = async () => {
    try {
      await unwrapResponse(api.DELETE("/api/floor/plans/{id}", { params: { path: { id: plan.id } } }));
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
              <TextField
                label="name of the plan"
                wide="w-72"
                value={editing.name}
                onType={(name) => setEditing({ ...editing, name })}
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
            <Alerts alerts={standing?.alerts ?? []} told={plan.plan.told} />
            {dataset && <Watch plan={plan} dataset={dataset} enough={standing?.enough ?? 0} />}
            {dataset && <Entries plan={plan} dataset={dataset} entries={entries} />}
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
