import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { isFinal } from "../../api/client";
import { floorQuery, type Standing } from "../../api/floor";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { Empty, Loading, Problem } from "../../parts/states";
import { TopLine } from "../../parts/top-line";
import { collects, dueWords, lateOf, missedWords } from "./words";

/** Where samples are entered: every plan with its stations, and what is due. */
export function Floor() {
  const { data, error } = useQuery(floorQuery);
  const navigate = useNavigate();
  if (isFinal(error, data)) return <Problem thrown={error} />;
  return (
    <>
      <TopLine>
        <span className="font-semibold text-ink">Floor</span>
        {data && <span className="text-[13px]">{counted(data.length, "plan", "plans")}</span>}
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        {!data && <Loading what="the floor" />}
        {data && (
          <div className="mb-3 flex flex-wrap items-center gap-2.5">
            <h1 className="flex-1 font-serif text-2xl font-semibold">{headline(data)}</h1>
            <Button look="primary" onClick={() => navigate({ to: "/floor/new" })}>
              Plan a collection
            </Button>
          </div>
        )}
        {data?.length === 0 && (
          <Empty title="Nothing is collected yet">
            <p>Plan what is measured at a station, how often, and what is to be done when something is wrong.</p>
          </Empty>
        )}
        <div className="grid gap-4 xl:grid-cols-2">
          {data?.map((standing) => (
            <One key={standing.plan.id} standing={standing} />
          ))}
        </div>
      </main>
    </>
  );
}

function headline(all: Standing[]): string {
  const late = lateOf(all);
  const waiting = all.reduce((sum, { waiting }) => sum + waiting, 0);
  if (all.length === 0) return "The floor";
  const words = [
    late > 0 && counted(late, "station is late", "stations are late"),
    waiting > 0 && counted(waiting, "entry waits for its cause", "entries wait for their cause"),
  ].filter(Boolean);
  return words.length === 0 ? "Nothing is late." : `${words.join(", ")}.`;
}

function One({ standing }: { standing: Standing }) {
  const { plan, dataset, due, waiting } = standing;
  return (
    <section aria-label={plan.plan.name} className="rounded-xl border border-hairline bg-sheet p-4">
      <h2 className="font-serif text-[19px] font-semibold">
        <Link to="/floor/$id" params={{ id: plan.id }} className="hover:text-moss hover:underline">
          {plan.plan.name}
        </Link>
      </h2>
      <p className="text-ink-soft">
        {collects(plan)}; into{" "}
        <Link to="/data/$id" params={{ id: plan.dataset_id }} className="underline decoration-dotted">
          {dataset}
        </Link>
      </p>
      <ul className="mt-3 flex flex-col gap-2">
        {plan.stations.map((station, at) => {
          const own = due[at];
          return (
            <li key={station.id} className="flex flex-wrap items-center gap-x-4 gap-y-1">
              <Link
                to="/station/$id"
                params={{ id: station.id }}
                className="inline-flex min-h-11 items-center rounded-lg border border-moss px-4 font-semibold text-moss hover:bg-tint"
              >
                {station.name}
              </Link>
              {station.closed && <span className="text-ink-soft">closed</span>}
              {own && <span className={own.late ? "font-semibold text-clay" : ""}>{dueWords(own)}</span>}
              {own && own.missed > 0 && <span className="text-ink-soft">{missedWords(own)}</span>}
            </li>
          );
        })}
        {plan.stations.length === 0 && (
          <li className="text-ink-soft">No station yet; make one on the page of the plan.</li>
        )}
      </ul>
      <p className="mt-2 text-[13px] text-ink-soft">
        {counted(plan.subgroups, "entry", "entries")} so far
        {waiting > 0 && `, ${counted(waiting, "waits", "wait")} for a cause`}
      </p>
    </section>
  );
}
