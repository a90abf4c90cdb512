import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, isFinal, problemOf, unwrapResponse } from "../../api/client";
import { type Gauge, gaugesQuery, useGaugeChange } from "../../api/queries";
import { counted, fixed } from "../../lib/format";
import { toneColour } from "../../marks/tone";
import { Button } from "../../parts/button";
import { Empty, Loading, Problem } from "../../parts/states";
import { TopLine } from "../../parts/top-line";
import { dueWords, gaugeWords, isLate, standingOf, wantsCare } from "./words";

/** All gauges: how each stands, how much it takes, when its next study is due. */
export function Gauges() {
  const { data, error } = useQuery(gaugesQuery);
  const navigate = useNavigate();
  if (isFinal(error, data)) return <Problem thrown={error} />;
  return (
    <>
      <TopLine>
        <span className="font-semibold text-ink">Gauges</span>
        {data && <span className="text-[13px]">{counted(data.length, "gauge", "gauges")}</span>}
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        {!data && <Loading what="the gauges" />}
        {data && (
          <div className="mb-3 flex flex-wrap items-center gap-2.5">
            <h1 className="flex-1 font-serif text-2xl font-semibold">{headline(data)}</h1>
            <Button look="primary" onClick={() => navigate({ to: "/plan" })}>
              Plan a gauge study
            </Button>
          </div>
        )}
        {data?.length === 0 && (
          <Empty title="No gauge is entered yet">
            <p>Enter one below, or plan a study: its gauge is entered with it.</p>
          </Empty>
        )}
        {data && data.length > 0 && <List gauges={data} />}
        {data && <Enter />}
      </main>
    </>
  );
}

function headline(gauges: Gauge[]): string {
  const care = gauges.filter(wantsCare).length;
  if (gauges.length === 0) return "Gauges";
  return care === 0 ? "All gauges are in order." : `${counted(care, "gauge wants", "gauges want")} care.`;
}

function List({ gauges }: { gauges: Gauge[] }) {
  const order = [...gauges].sort((a, b) => Number(wantsCare(b)) - Number(wantsCare(a)));
  return (
    <div className="overflow-x-auto rounded-xl border border-hairline bg-sheet">
      <table className="w-full text-left">
        <thead className="text-[13px] text-ink-soft">
          <tr>
            {["gauge", "measures", "last study", "takes", "next study"].map((head) => (
              <th key={head} className="px-4 py-2 font-medium">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {order.map((gauge) => {
            const { tone, words } = standingOf(gauge);
            const share = gauge.records[0]?.share;
            return (
              <tr key={gauge.id} className="border-t border-hairline">
                <th scope="row" className="px-4 py-2 font-semibold">
                  <Link to="/gauges/$id" params={{ id: gauge.id }} className="hover:text-moss hover:underline">
                    {gaugeWords(gauge)}
                  </Link>
                </th>
                <td className="px-4 py-2">{gauge.measures}</td>
                <td className="px-4 py-2">
                  <span className="font-semibold" style={{ color: toneColour(tone) }}>
                    {words}
                  </span>{" "}
                  <span className="text-ink-soft">{gauge.records[0]?.day}</span>
                </td>
                <td className="px-4 py-2">{share == null ? "" : `${fixed(100 * share, 1)} %`}</td>
                <td className={`px-4 py-2 ${isLate(gauge) ? "font-semibold text-clay" : ""}`}>{dueWords(gauge)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** A new gauge by name and number; the rest is said on its page. */
function Enter() {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [number, setNumber] = useState("");
  const create = useGaugeChange(undefined, (gauge: { name: string; number: string }) =>
    unwrapResponse(api.POST("/api/gauges", { body: { ...gauge, measures: "", unit: "", note: "", months: 12 } })),
  );
  const problem = create.error ? problemOf(create.error) : null;
  return (
    <form
      aria-label="Enter a gauge"
      className="mt-5 flex flex-wrap items-center gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        create.mutate({ name, number }, { onSuccess: ({ id }) => navigate({ to: "/gauges/$id", params: { id } }) });
      }}
    >
      <input
        aria-label="Name of the gauge"
        placeholder="Depth gauge"
        value={name}
        maxLength={120}
        onChange={(event) => setName(event.target.value)}
        className="h-[31px] w-56 rounded-md border border-hairline bg-sheet px-2.5"
      />
      <input
        aria-label="Number of the gauge"
        placeholder="D-07"
        value={number}
        maxLength={60}
        onChange={(event) => setNumber(event.target.value)}
        className="h-[31px] w-28 rounded-md border border-hairline bg-sheet px-2.5"
      />
      <Button type="submit" disabled={name.trim() === "" || create.isPending}>
        Enter a gauge
      </Button>
      {problem && (
        <p role="alert" className="text-clay">
          {problem.detail}. {problem.advice}
        </p>
      )}
    </form>
  );
}
