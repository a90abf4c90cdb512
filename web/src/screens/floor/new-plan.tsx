import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, problemOf, unwrapResponse } from "../../api/client";
import type { Plan } from "../../api/floor";
import { type Dataset, datasetsQuery } from "../../api/queries";
import { Button } from "../../parts/button";
import { SelectField, TextField } from "../../parts/fields";
import { Then, TopLine } from "../../parts/top-line";
import { type Infos, newMeasurement } from "./measured";
import { PlanForm } from "./plan-form";

const EMPTY: Plan = {
  name: "",
  identifiers: [
    { column: "taken at", asked: "time", required: false, remembered: false, list: null, person: false },
    { column: "subgroup", asked: "subgroup", required: false, remembered: false, list: null, person: false },
    { column: "operator", asked: "text", required: true, remembered: true, list: null, person: true },
  ],
  measurements: [newMeasurement("thickness")],
  pieces: 5,
  unattended: false,
  counts: { inspected: null, defectives: null, defects: [] },
  every: null,
  shifts: [
    { name: "early", begins: 6 * 60 },
    { name: "late", begins: 14 * 60 },
    { name: "night", begins: 22 * 60 },
  ],
  reactions: [],
  causes: [],
  told: [],
};

/** A plan for a dataset that is there: what its columns seem to be for. */
function guessed(dataset: Dataset, name: string): Plan {
  const limited = dataset.columns.filter(({ kind, lsl, usl }) => kind === "number" && (lsl != null || usl != null));
  const measured = limited[0] ?? dataset.columns.find(({ kind }) => kind === "number");
  const identifier = (column: string, asked: Plan["identifiers"][number]["asked"]) => ({
    column,
    asked,
    required: false,
    remembered: true,
    list: null,
    person: false,
  });
  const of = (kinds: string[], asked: Plan["identifiers"][number]["asked"], like = /./) => {
    const found = dataset.columns.find(({ kind, name }) => kinds.includes(kind) && like.test(name));
    return found ? [identifier(found.name, asked)] : [];
  };
  return {
    ...EMPTY,
    name: name || dataset.name,
    identifiers: [
      ...of(["date-time"], "time"),
      ...of(["whole-number"], "subgroup", /sample|subgroup/i),
      ...of(["whole-number"], "piece", /piece|position/i),
      ...of(["category", "text"], "text", /operator|inspector|who|shift/i),
      ...of(["category", "text"], "remark", /remark|note/i),
    ],
    measurements: measured ? [newMeasurement(measured.name)] : [],
  };
}

/** A new collection plan, for a dataset that is there or for a new one. */
export function NewPlan() {
  const datasets = useQuery(datasetsQuery).data ?? [];
  const navigate = useNavigate();
  const [plan, setPlan] = useState(EMPTY);
  const [infos, setInfos] = useState<Infos>({});
  const [id, setId] = useState("");
  const [station, setStation] = useState("Station 1");
  const [thrown, setThrown] = useState<unknown>(null);
  const dataset = datasets.find((one) => String(one.id) === id);
  const problem = thrown === null ? null : problemOf(thrown);
  const save = async () => {
    try {
      const body = { plan, infos, station, ...(dataset && { dataset_id: dataset.id }) };
      const stored = await unwrapResponse(api.POST("/api/floor/plans", { body }));
      navigate({ to: "/floor/$id", params: { id: stored.id } });
    } catch (error) {
      setThrown(error);
    }
  };
  return (
    <>
      <TopLine>
        <Link to="/floor" className="hover:text-ink">
          Floor
        </Link>
        <Then />
        <span className="font-semibold text-ink">a new plan</span>
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-8 pt-4">
        <h1 className="mb-3 font-serif text-2xl font-semibold">What is collected at a station?</h1>
        <div className="mb-5 flex flex-wrap items-end gap-3">
          <TextField
            label="name of the plan"
            wide="w-72"
            value={plan.name}
            onType={(name) => setPlan({ ...plan, name })}
          />
          <SelectField
            label="into"
            value={id}
            onChoose={(next) => {
              setId(next);
              const chosen = datasets.find((one) => String(one.id) === next);
              setPlan(chosen ? guessed(chosen, plan.name) : { ...EMPTY, name: plan.name });
            }}
          >
            <option value="">a new dataset of this name</option>
            {datasets.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </SelectField>
          <TextField label="first station" value={station} onType={setStation} />
        </div>
        <PlanForm plan={plan} dataset={dataset} infos={infos} onPlan={setPlan} onInfos={setInfos} />
        {problem && (
          <p role="alert" className="mt-4 text-clay">
            {problem.detail[0]?.toUpperCase()}
            {problem.detail.slice(1)}. <span className="text-ink-soft">{problem.advice}</span>
          </p>
        )}
        <div className="mt-5">
          <Button look="primary" disabled={plan.name.trim() === ""} onClick={save}>
            Make this plan
          </Button>
        </div>
      </main>
    </>
  );
}
