import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { isFinal } from "../../api/client";
import { floorQuery } from "../../api/floor";
import { gaugesQuery, openWorkQuery, wallQuery } from "../../api/queries";
import { counted } from "../../lib/format";
import { useRemembered } from "../../lib/use-remembered";
import { useSize } from "../../lib/use-size";
import { Button } from "../../parts/button";
import { Empty, Loading, Problem } from "../../parts/states";
import { TopLine } from "../../parts/top-line";
import { lateOf } from "../floor/words";
import { GaugeLine } from "../gauges/line";
import { wantsCare } from "../gauges/words";
import { Arrange } from "./arrange";
import { Card } from "./card";
import { columnsIn, foundIn, type Group, groupsOf, isDoubtful, isRestless, MANY, type Watched } from "./groups";
import { headline as sinceHeadline, sinceOf } from "./since";

/** The first screen: one dial for each watched characteristic. */
export function Wall() {
  const { data, error } = useQuery(wallQuery);
  const [by, setBy] = useRemembered("wall by", ["dataset", "line", "product"] as const);
  const [order, setOrder] = useRemembered("wall order", ["worst", "name", "hand"] as const);
  const [arranging, setArranging] = useState(false);
  const [wantsSmall, setWantsSmall] = useState<boolean>();
  const [words, setWords] = useState("");
  const [restless, setRestless] = useState(false);
  const [changed, setChanged] = useState(false);
  const [room, { width }] = useSize<HTMLDivElement>();
  if (isFinal(error, data)) return <Problem thrown={error} />;
  const small = wantsSmall ?? (data?.length ?? 0) > MANY;
  const columns = columnsIn(width, small);
  const wanted = (entry: Watched) => (!restless || isRestless(entry)) && (!changed || sinceOf(entry) !== null);
  const shown = foundIn(data ?? [], words, wanted);
  const since = sinceHeadline(data ?? []);
  return (
    <>
      <TopLine>
        <span className="font-semibold text-ink">Wall</span>
        {data && (
          <span className="text-[13px]">{counted(data.length, "characteristic", "characteristics")} watched</span>
        )}
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        <div ref={room} />
        {!data && <Loading what="the wall" />}
        <GaugesInCare />
        {data?.length === 0 && <Nothing />}
        {data && data.length > 0 && (
          <>
            <div className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-2">
              <h1 className="flex-1 font-serif text-2xl font-semibold">{headline(data)}</h1>
              <AtTheStations />
              <WithoutCause />
            </div>
            {since && <p className="mb-2 text-ink-soft">{since}</p>}
            <div className="mb-3 mt-2 flex flex-wrap items-center gap-x-3 gap-y-2">
              <input
                type="search"
                aria-label="Find on the Wall"
                placeholder="find"
                value={words}
                onChange={(event) => setWords(event.target.value)}
                className="h-[31px] w-32 rounded-full border border-hairline bg-sheet px-3 text-[13px]"
              />
              <Toggle on={restless} onTurn={setRestless}>
                not steady only
              </Toggle>
              {since && (
                <Toggle on={changed} onTurn={setChanged}>
                  changed only
                </Toggle>
              )}
              <Toggle on={small} onTurn={setWantsSmall}>
                small dials
              </Toggle>
              <Choice label="grouped by" value={by} onChoose={setBy} among={GROUPS} />
              <Choice label="order" value={order} onChoose={setOrder} among={ORDERS} />
              <span className="flex-1" />
              <Toggle on={arranging} onTurn={setArranging}>
                arrange
              </Toggle>
              <Link
                to="/wall"
                search={restless ? { show: "unsteady" } : {}}
                className="inline-flex h-[31px] items-center rounded-full border border-hairline bg-sheet px-3 text-[13px] font-medium hover:border-moss"
              >
                hang it up
              </Link>
            </div>
            {shown.length === 0 && <p className="text-ink-soft">Nothing on the Wall is called so, or wants a look.</p>}
            {arranging && <Arrange entries={data} shown={shown} />}
            {width > 0 && !arranging && (
              <div
                className="grid grid-flow-row-dense items-start gap-x-3.5 gap-y-4"
                style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
              >
                {groupsOf(shown, by, order).map((group) => (
                  <Together
                    key={group.key}
                    group={group}
                    span={Math.min(group.entries.length, columns)}
                    small={small}
                  />
                ))}
              </div>
            )}
          </>
        )}
      </main>
    </>
  );
}

function Toggle({ on, onTurn, children }: { on: boolean; onTurn: (on: boolean) => void; children: string }) {
  return (
    <Button
      aria-pressed={on}
      onClick={() => onTurn(!on)}
      className="rounded-full! text-[13px] aria-pressed:border-moss"
    >
      {children}
    </Button>
  );
}

const GROUPS = [
  ["dataset", "dataset"],
  ["line", "line"],
  ["product", "product"],
] as const;
const ORDERS = [
  ["worst", "worst first"],
  ["name", "by name"],
  ["hand", "by hand"],
] as const;

type ChoiceProps<T extends string> = {
  label: string;
  value: T;
  onChoose: (value: T) => void;
  among: readonly (readonly [T, string])[];
};

function Choice<T extends string>({ label, value, onChoose, among }: ChoiceProps<T>) {
  return (
    <label className="flex items-center gap-1.5 text-[13px] text-ink-soft">
      {label}
      <select
        value={value}
        onChange={(event) => onChoose(event.target.value as T)}
        className="h-[31px] rounded-full border border-hairline bg-sheet px-2.5 font-medium text-ink"
      >
        {among.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The dials of one dataset, line or product side by side, under its name. */
function Together({ group, span, small }: { group: Group; span: number; small: boolean }) {
  return (
    <section aria-label={group.name} style={{ gridColumn: `span ${span}` }}>
      <h2 className="mb-1.5 flex items-baseline gap-2 text-[13px] text-ink-soft">
        {group.dataset === null ? (
          <span className="min-w-0 truncate font-semibold first-letter:uppercase">{group.name}</span>
        ) : (
          <Link
            to="/data/$id"
            params={{ id: group.dataset }}
            className="min-w-0 truncate font-semibold hover:text-moss"
          >
            {group.name}
          </Link>
        )}
        {span > 1 && <span className="whitespace-nowrap">{standing(group.entries)}</span>}
      </h2>
      <ul className="grid gap-3.5" style={{ gridTemplateColumns: `repeat(${span}, minmax(0, 1fr))` }}>
        {group.entries.map((entry) => (
          <li key={entry.column.id}>
            <Card entry={entry} small={small} group={group.dataset === null} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** "2 of 5 not steady, 1 to look at". */
function standing(entries: Watched[]): string {
  const [unsteady, doubtful] = [unsteadyOf(entries), entries.filter(isDoubtful).length];
  const words = [
    unsteady > 0 && `${unsteady} of ${entries.length} not steady`,
    doubtful > 0 && `${doubtful} to look at`,
  ].filter(Boolean);
  return words.length > 0 ? words.join(", ") : `all ${entries.length} steady`;
}

const unsteadyOf = (entries: Watched[]) => entries.filter((entry) => entry.dial && !entry.dial.steady).length;

/** Stations that are late, and alerts that nobody has taken on. */
function AtTheStations() {
  const all = useQuery(floorQuery).data ?? [];
  const late = lateOf(all);
  const alerts = all.flatMap((one) => one.alerts).filter(({ taken_by }) => taken_by == null).length;
  if (late === 0 && alerts === 0) return null;
  const words = [
    late > 0 && counted(late, "station is late", "stations are late"),
    alerts > 0 && counted(alerts, "alert is not taken on", "alerts are not taken on"),
  ];
  return (
    <Link
      to="/floor"
      className="inline-flex h-[31px] items-center rounded-full border border-clay/60 bg-sheet px-3 text-[13px] font-semibold text-clay hover:border-clay"
    >
      {words.filter(Boolean).join(", ")}
    </Link>
  );
}

/** How many signals wait for a cause, on the way to their list. */
function WithoutCause() {
  const total = useQuery(openWorkQuery).data?.total ?? 0;
  if (total === 0) return null;
  return (
    <Link
      to="/signals"
      className="inline-flex h-[31px] items-center rounded-full border border-plum/60 bg-sheet px-3 text-[13px] font-semibold text-plum hover:border-plum"
    >
      {counted(total, "signal waits", "signals wait")} for a cause
    </Link>
  );
}

/** Gauges that are due or unfit. */
function GaugesInCare() {
  const care = (useQuery(gaugesQuery).data ?? []).filter(wantsCare);
  if (care.length === 0) return null;
  return (
    <section aria-label="Gauges that want care" className="mb-3 flex flex-wrap items-center gap-2">
      <h2 className="text-[13px] font-semibold text-ink-soft">
        {counted(care.length, "gauge wants", "gauges want")} care
      </h2>
      {care.map((gauge) => (
        <GaugeLine key={gauge.id} gauge={gauge} />
      ))}
    </section>
  );
}

function Nothing() {
  return (
    <Empty title="Nothing is watched yet">
      <p>
        Give a column its limits on the{" "}
        <Link to="/data" className="font-semibold text-moss underline">
          Data page
        </Link>
        , ask “Is it steady?” of it, and its dial hangs here.
      </p>
    </Empty>
  );
}

function headline(entries: Watched[]): string {
  const [unsteady, doubtful] = [unsteadyOf(entries), entries.filter(isDoubtful).length];
  const signals = entries.reduce((sum, entry) => sum + (entry.dial?.signals ?? 0), 0);
  const doubts = doubtful > 0 && `${doubtful} ${doubtful === 1 ? "needs" : "need"} a look`;
  if (unsteady === 0)
    return doubts
      ? `${doubtful} of ${entries.length} ${doubtful === 1 ? "needs" : "need"} a look.`
      : `All ${entries.length} are steady.`;
  const words = `${unsteady} of ${entries.length} ${unsteady === 1 ? "is" : "are"} not steady`;
  return `${[words, doubts].filter(Boolean).join(", ")}: ${counted(signals, "signal", "signals")}.`;
}
