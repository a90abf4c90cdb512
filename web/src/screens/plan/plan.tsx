import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, problemOf, unwrapResponse } from "../../api/client";
import { gaugesQuery } from "../../api/queries";
import { Button } from "../../parts/button";
import { Then, TopLine } from "../../parts/top-line";
import { gaugeWords } from "../gauges/words";
import { Field, Lines } from "./fields";
import { hasOperators, KINDS, planOf, START, type Typed, withKind } from "./plan-state";
import { WhatItTells } from "./what-it-tells";

const route = getRouteApi("/plan");

/** A gauge study before it is made: what it takes, what it can tell, and the sheet to fill. */
export function PlanScreen() {
  const search = route.useSearch();
  const navigate = useNavigate();
  const gauges = useQuery(gaugesQuery).data ?? [];
  const [typed, setTyped] = useState<Typed>(() => ({ ...START, seed: String(1 + Math.floor(Math.random() * 99_999)) }));
  const [gaugeId, setGaugeId] = useState<number | "new" | null>(search.gauge ?? null);
  const [gauge, setGauge] = useState({ name: "", number: "" });
  const set = (part: Partial<Typed>) => setTyped((before) => ({ ...before, ...part }));
  const plan = planOf(typed);
  const weighed = useQuery({
    queryKey: ["plan", plan],
    queryFn: ({ signal }) => unwrapResponse(api.POST("/api/gauge-plans", { body: plan, signal })),
    retry: false,
    placeholderData: keepPreviousData,
    enabled: typed.characteristic.trim() !== "",
  });
  const make = useMutation({
    mutationFn: () =>
      unwrapResponse(
        api.POST("/api/sheets", {
          body: {
            plan,
            gauge_id: typeof gaugeId === "number" ? gaugeId : null,
            gauge:
              gaugeId === "new"
                ? { ...gauge, measures: typed.characteristic, unit: typed.unit, months: 12, note: "" }
                : null,
          },
        }),
      ),
    onSuccess: ({ dataset }) => navigate({ to: "/data/$id", params: { id: dataset.id } }),
  });
  const problem = make.error ? problemOf(make.error) : null;
  const { kind } = typed;
  const known = kind === "single" || kind === "linearity";
  return (
    <>
      <TopLine>
        <Link to="/gauges" className="hover:text-moss">
          Gauges
        </Link>
        <Then />
        <span className="font-semibold text-ink">Plan a gauge study</span>
      </TopLine>
      <main className="flex min-h-0 flex-1 gap-7 overflow-y-auto px-6 pb-6 pt-3.5 max-lg:flex-col max-lg:px-3">
        <form
          aria-label="Plan a gauge study"
          className="min-w-0 flex-1"
          onSubmit={(event) => {
            event.preventDefault();
            make.mutate();
          }}
        >
          <h1 className="font-serif text-2xl font-semibold">Plan a gauge study</h1>
          <fieldset className="mt-2 grid grid-cols-2 gap-x-5 gap-y-1 max-md:grid-cols-1">
            <legend className="mb-1 text-[13px] font-semibold text-ink-soft">Who reads what</legend>
            {KINDS.map(({ kind: one, words, when }) => (
              <label key={one} className="flex items-start gap-2 rounded-md px-1 py-0.5 hover:bg-tint">
                <input
                  type="radio"
                  name="kind"
                  className="mt-1.5 accent-moss"
                  checked={kind === one}
                  onChange={() => setTyped((before) => withKind(before, one))}
                />
                <span>
                  <span className="font-semibold">{words}</span>
                  <span className="block text-[13px] text-ink-soft">{when}</span>
                </span>
              </label>
            ))}
          </fieldset>
          <div className="mt-4 grid grid-cols-2 gap-x-5 gap-y-2 max-md:grid-cols-1">
            <Field
              label={kind === "attribute" ? "what is judged" : "what is read"}
              value={typed.characteristic}
              placeholder={kind === "attribute" ? "solder joint" : "groove depth"}
              onChange={(characteristic) => set({ characteristic })}
            />
            {kind !== "attribute" && (
              <>
                <Field label="unit" value={typed.unit} placeholder="mm" onChange={(unit) => set({ unit })} />
                <Field label="LSL" value={typed.lsl} numeric onChange={(lsl) => set({ lsl })} />
                <Field label="USL" value={typed.usl} numeric onChange={(usl) => set({ usl })} />
                <Field label="decimals" value={typed.decimals} numeric onChange={(decimals) => set({ decimals })} />
              </>
            )}
            {kind !== "single" && (
              <Field
                label={kind === "nested" ? "parts of each operator" : "parts"}
                value={typed.parts}
                numeric
                onChange={(parts) => set({ parts })}
              />
            )}
            <Field label="trials of each" value={typed.trials} numeric onChange={(trials) => set({ trials })} />
            <Field label="planned by" value={typed.plannedBy} onChange={(plannedBy) => set({ plannedBy })} />
            <Field label="seed of the order" value={typed.seed} numeric onChange={(seed) => set({ seed })} />
            <div className="flex items-center gap-2">
              <label htmlFor="plan-gauge" className="w-[128px] shrink-0">
                gauge
              </label>
              <select
                id="plan-gauge"
                value={gaugeId ?? ""}
                onChange={({ target }) =>
                  setGaugeId(target.value === "" ? null : target.value === "new" ? "new" : Number(target.value))
                }
                className="h-[31px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-1.5"
              >
                <option value="">not named</option>
                {gauges.map((one) => (
                  <option key={one.id} value={one.id}>
                    {gaugeWords(one)}
                  </option>
                ))}
                <option value="new">a new one</option>
              </select>
            </div>
            {gaugeId === "new" && (
              <>
                <Field
                  label="its name"
                  value={gauge.name}
                  placeholder="Depth gauge"
                  onChange={(name) => setGauge({ ...gauge, name })}
                />
                <Field
                  label="its number"
                  value={gauge.number}
                  placeholder="D-07"
                  onChange={(number) => setGauge({ ...gauge, number })}
                />
              </>
            )}
          </div>
          <div className="mt-3 flex flex-wrap gap-5">
            {hasOperators(kind) && (
              <Lines
                label="operators, one a line"
                value={typed.operators}
                placeholder={"Ida\nJonas\nMei"}
                onChange={(operators) => set({ operators })}
              />
            )}
            {known && (
              <Lines
                label={kind === "single" ? "known value of the piece" : "known values, one a line"}
                value={typed.references}
                placeholder={kind === "single" ? "1.200" : "1.100\n1.150\n1.200\n1.250\n1.300"}
                onChange={(references) => set({ references })}
              />
            )}
            {kind === "attribute" && (
              <>
                <Lines label="labels, the bad one first" value={typed.labels} onChange={(labels) => set({ labels })} />
                <Lines
                  label="what each part is, if known"
                  value={typed.known}
                  placeholder={"bad\ngood\n..."}
                  onChange={(known) => set({ known })}
                />
              </>
            )}
          </div>
          <div className="mt-4 flex flex-wrap items-center gap-3">
            <Button type="submit" look="primary" disabled={make.isPending || weighed.isError || !weighed.data}>
              Make the sheet
            </Button>
            <span className="text-[13px] text-ink-soft">
              A table with its rows in a random order, to type into, to print, or to take along.
            </span>
          </div>
          {problem && (
            <p role="alert" className="mt-2 text-clay">
              {problem.detail}. {problem.advice}
            </p>
          )}
        </form>
        <WhatItTells
          tells={weighed.isError ? undefined : weighed.data}
          problem={weighed.error}
          idle={typed.characteristic.trim() === ""}
          isShare={kind === "crossed" || kind === "nested" || kind === "attribute"}
        />
      </main>
    </>
  );
}
