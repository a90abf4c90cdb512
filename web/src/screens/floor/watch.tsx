import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, unwrapResponse } from "../../api/client";
import { type Collection, planQuery } from "../../api/floor";
import {
  type Dataset,
  methodsQuery,
  outcomeQuery,
  type Study,
  signalsQuery,
  studiesQuery,
  studyQuery,
} from "../../api/queries";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { SelectField } from "../../parts/fields";
import { notifyProblem } from "../../parts/notices";
import type { Card } from "../../study/statement/words";

type Props = { plan: Collection; dataset: Dataset; enough: number };

/** The charts that watch a plan: where their limits come from, and which of their signals wait for a cause. */
export function Watch({ plan, dataset, enough }: Props) {
  const queries = useQueryClient();
  const all = useQuery(studiesQuery).data ?? [];
  const cards = useQuery(methodsQuery).data;
  const charts = all.filter(({ dataset_id, spec }) => dataset_id === dataset.id && spec.method === "control-chart");
  const others = charts.filter(({ id }) => !plan.study_ids.includes(id));
  const watchedBy = async (study_ids: number[]) => {
    try {
      const body = { version: plan.version, plan: plan.plan, study_ids };
      const stored = await unwrapResponse(
        api.PUT("/api/floor/plans/{id}", { params: { path: { id: plan.id } }, body }),
      );
      queries.setQueryData(planQuery(plan.id).queryKey, stored as Collection);
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  return (
    <section aria-label="Watched by">
      <h2 className="mb-1.5 font-serif text-[19px] font-semibold">Watched by</h2>
      <ul className="flex flex-col gap-2.5">
        {plan.study_ids.map((id) => (
          <One
            key={id}
            id={id}
            dataset={dataset}
            enough={enough}
            onRemove={() => watchedBy(plan.study_ids.filter((other) => other !== id))}
          />
        ))}
      </ul>
      {plan.study_ids.length === 0 && <p className="text-ink-soft">No chart; nobody is told of signals.</p>}
      {others.length > 0 && (
        <div className="mt-2">
          <SelectField
            label="another chart"
            value=""
            onChoose={(id) => id && watchedBy([...plan.study_ids, Number(id)])}
          >
            <option value="">choose one</option>
            {others.map((one) => (
              <option key={one.id} value={one.id}>
                {`${nameOf(one, cards)}; ${limitsOf(one)}`}
              </option>
            ))}
          </SelectField>
        </div>
      )}
    </section>
  );
}

type OneProps = { id: number; dataset: Dataset; enough: number; onRemove: () => void };

function One({ id, dataset, enough, onRemove }: OneProps) {
  const study = useQuery(studyQuery(id)).data;
  const cards = useQuery(methodsQuery).data;
  if (!study) return null;
  const name = nameOf(study, cards);
  return (
    <li>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Link to="/study/$id" params={{ id }} className="font-semibold hover:text-moss hover:underline">
          {name}
        </Link>
        <Limits study={study} dataset={dataset} enough={enough} />
        <Button look="faint" aria-label={`${name} watches no longer`} onClick={onRemove}>
          Remove
        </Button>
      </div>
      <Waiting study={study} dataset={dataset} />
    </li>
  );
}

/** Its own name, or what it charts and how: "lens thickness, mean and range (x-bar, R)". */
function nameOf({ name, spec, subject }: Study, cards: Card[] | undefined): string {
  if (name) return name;
  const charted = (subject?.columns ?? []).join(", ");
  const kind = chartKinds(cards).find(({ value }) => value === (spec.options?.chart ?? "individuals"));
  return kind ? `${charted}, ${kind.words}` : charted;
}

/** The kinds of chart that there are, in words. */
function chartKinds(cards: Card[] | undefined): { value: string; words: string }[] {
  const card = cards?.find(({ method }) => method === "control-chart");
  return (card?.slots ?? []).flatMap((slot) => (slot.name === "chart" && slot.kind === "choice" ? slot.choices : []));
}

type Baseline = { from?: string; first?: number; last?: number };
const baseline = (study: Study) => (study.spec.options?.limits ?? {}) as Baseline;

function limitsOf(study: Study): string {
  const { from = "data", first = 0, last = 0 } = baseline(study);
  if (from === "baseline") return `limits settled on points ${first + 1} to ${last + 1}`;
  return from === "data" ? "limits that follow" : "known limits";
}

/** Where the limits come from, with a way to settle them once there is enough, and to let them follow again. */
function Limits({ study, dataset, enough }: { study: Study; dataset: Dataset; enough: number }) {
  const queries = useQueryClient();
  const numbers = useQuery(outcomeQuery(study, dataset, { points: 2 })).data?.numbers;
  const points = numbers?.method === "control-chart" ? numbers.points : 0;
  const set = async (limits: Baseline) => {
    try {
      const spec = { ...study.spec, options: { ...study.spec.options, limits } };
      const path = { id: study.id };
      const saved = await unwrapResponse(
        api.PATCH("/api/studies/{id}", { params: { path }, body: { revision: study.revision, spec } }),
      );
      queries.setQueryData(studyQuery(study.id).queryKey, saved);
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  const { from = "data" } = baseline(study);
  return (
    <>
      <span className="first-letter:uppercase">{limitsOf(study)}.</span>
      {from === "baseline" && <Button onClick={() => set({ from: "data" })}>Let them follow</Button>}
      {from === "data" &&
        (points >= enough ? (
          <Button onClick={() => set({ from: "baseline", first: 0, last: points - 1 })}>
            Settle them on these {points}
          </Button>
        ) : (
          <span className="text-ink-soft">
            {points} of {enough} points; with {enough} they can be settled.
          </span>
        ))}
    </>
  );
}

/** Signals about which nothing was said, each on the way to its place. */
function Waiting({ study, dataset }: { study: Study; dataset: Dataset }) {
  const { data } = useQuery(signalsQuery(study, dataset));
  const waiting = (data?.signals ?? []).filter(({ finding }) => finding == null);
  if (waiting.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer font-semibold text-plum">
        {counted(waiting.length, "signal waits for a cause", "signals wait for a cause")}
      </summary>
      <ul className="mt-1 flex flex-col gap-0.5">
        {[...waiting]
          .reverse()
          .slice(0, 12)
          .map(({ address, sentence }) => (
            <li key={address}>
              <Link
                to="/study/$id"
                params={{ id: study.id }}
                search={{ signal: address }}
                className="hover:text-moss hover:underline"
              >
                {sentence}
              </Link>
            </li>
          ))}
      </ul>
    </details>
  );
}
