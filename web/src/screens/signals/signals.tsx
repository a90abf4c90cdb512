import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { isFinal, type Schema } from "../../api/client";
import { openWorkQuery } from "../../api/queries";
import { counted, grouped } from "../../lib/format";
import { Empty, Loading, Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";

type Open = Schema["OpenSignal"];

/** What still asks for somebody: signals without a cause, actions not done. */
export function Signals() {
  const { data, error } = useQuery(openWorkQuery);
  if (isFinal(error, data)) return <Problem thrown={error} />;
  return (
    <>
      <TopLine>
        <Link to="/" className="hover:text-moss">
          Wall
        </Link>
        <Then />
        <span className="font-semibold text-ink">Signals without a cause</span>
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        {!data && <Loading what="the signals" />}
        {data && data.total === 0 && data.actions.length === 0 && (
          <Empty title="Every signal has its cause">
            <p>Nothing waits for an explanation, and no action is open.</p>
          </Empty>
        )}
        {data?.stale && (
          <p role="status" className="mb-1 text-[13px] text-ink-soft">
            Some are being worked out anew.
          </p>
        )}
        {data && data.total > 0 && <WithoutCause signals={data.signals} total={data.total} />}
        {data && data.actions.length > 0 && <Actions actions={data.actions} />}
      </main>
    </>
  );
}

/** The signals of one study after the other. */
function WithoutCause({ signals, total }: { signals: Open[]; total: number }) {
  const studies = [...new Set(signals.map((signal) => signal.study_id))];
  return (
    <>
      <h1 className="font-serif text-2xl font-semibold">
        {counted(total, "signal waits", "signals wait")} for a cause, in {counted(studies.length, "study", "studies")}.
      </h1>
      <div className="mt-3.5 grid grid-cols-[repeat(auto-fill,minmax(440px,1fr))] items-start gap-3.5 max-lg:grid-cols-1">
        {studies.map((study) => (
          <StudySignals key={study} signals={signals.filter((signal) => signal.study_id === study)} />
        ))}
      </div>
      {signals.length < total && (
        <p className="mt-3 text-ink-soft">
          The first {grouped(signals.length)} are listed; open the study for the rest.
        </p>
      )}
    </>
  );
}

const FIRST = 6;

function StudySignals({ signals }: { signals: Open[] }) {
  const [first] = signals;
  if (!first) return null;
  return (
    <section aria-label={first.dataset} className="rounded-xl border border-hairline bg-sheet">
      <h2 className="px-4 pb-1.5 pt-3 font-serif text-[17px] font-semibold first-letter:uppercase">
        {first.column}
        <span className="ml-2 font-sans text-[13px] font-normal text-ink-soft">{first.study ?? first.dataset}</span>
      </h2>
      <ul>
        {signals.slice(0, FIRST).map((signal) => (
          <li key={`${signal.study_id} ${signal.address}`} className="border-t border-hairline">
            <Link
              to="/study/$id"
              params={{ id: signal.study_id }}
              search={{ signal: signal.address }}
              className="flex gap-3 px-4 py-2 hover:bg-tint"
            >
              <Mark run={signal.pattern !== "beyond-limits"} />
              <span className="flex-1">{signal.sentence}</span>
              <span className="whitespace-nowrap font-semibold text-moss">Give a cause</span>
            </Link>
          </li>
        ))}
        {signals.length > FIRST && (
          <li className="border-t border-hairline px-4 py-2 text-ink-soft">
            <Link to="/study/$id" params={{ id: first.study_id }} className="hover:text-moss">
              and {counted(signals.length - FIRST, "more signal", "more signals")} of this study
            </Link>
          </li>
        )}
      </ul>
    </section>
  );
}

/** A ring for a point, a bracket for a run, as in the figure. */
function Mark({ run }: { run: boolean }) {
  return (
    <svg viewBox="0 0 18 18" aria-hidden="true" className="mt-0.5 h-[18px] w-[18px] shrink-0">
      {run ? (
        <path d="M2 6v6h14V6" fill="none" stroke="var(--plum)" strokeWidth="2" />
      ) : (
        <>
          <circle cx="9" cy="9" r="7" fill="none" stroke="var(--plum)" strokeWidth="2" />
          <circle cx="9" cy="9" r="3" fill="var(--slate)" />
        </>
      )}
    </svg>
  );
}

function Actions({ actions }: { actions: Schema["OpenAction"][] }) {
  const today = new Date().toISOString().slice(0, 10);
  return (
    <section aria-label="Open actions" className="mt-6">
      <h2 className="font-serif text-xl font-semibold">
        {counted(actions.length, "action is", "actions are")} not done.
      </h2>
      <ul className="mt-2.5 rounded-xl border border-hairline bg-sheet">
        {actions.map(({ finding, study_id, address, column }) => (
          <li key={`${study_id} ${address}`} className="border-b border-hairline last:border-0">
            <Link
              to="/study/$id"
              params={{ id: study_id }}
              search={{ signal: address }}
              className="flex items-baseline gap-4 px-4 py-2 hover:bg-tint"
            >
              <span className={`w-28 ${finding.due && finding.due < today ? "font-semibold text-clay" : ""}`}>
                {finding.due ?? "no date"}
              </span>
              <span className="w-32 truncate">{finding.owner || "nobody"}</span>
              <span className="flex-1">{finding.action}</span>
              <span className="text-ink-soft">
                {column}: {finding.cause ?? "no cause"}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
