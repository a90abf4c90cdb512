import { problemOf, type Schema } from "../../api/client";
import { counted, fixed } from "../../lib/format";

type Props = {
  tells: Schema["GaugePlanTells"] | undefined;
  problem: unknown;
  /** Nothing is named yet. */
  idle: boolean;
  /** Whether its numbers are shares. */
  isShare: boolean;
};

/** How surely such a plan tells a good gauge from a poor one, while it is typed. */
export function WhatItTells({ tells, problem, idle, isShare }: Props) {
  return (
    <aside aria-label="What this plan can tell" className="w-[360px] shrink-0 max-lg:w-full">
      <h2 className="font-serif text-lg font-semibold">What this plan can tell</h2>
      {idle && <p className="mt-1 text-ink-soft">Name what is read, and it stands here at once.</p>}
      {!idle && problem !== null && !tells && (
        <p role="status" className="mt-1">
          <span className="first-letter:uppercase">{problemOf(problem).detail}.</span>{" "}
          <span className="text-ink-soft">{problemOf(problem).advice}</span>
        </p>
      )}
      {!idle && tells && (
        <>
          <p className="mt-1">
            <b>{counted(tells.rows, "reading", "readings")}</b> in a random order.
          </p>
          <ul className="mt-3 flex flex-col gap-3">
            {tells.expected.map((one) => (
              <li key={one.words}>
                <Interval
                  {...one}
                  isShare={isShare}
                  most={isShare ? 1 : Math.max(...tells.expected.map(({ high }) => high))}
                />
              </li>
            ))}
          </ul>
          <p className="mt-3 border-t border-hairline pt-2.5">{tells.advice}</p>
        </>
      )}
    </aside>
  );
}

type IntervalProps = Schema["GaugePlanExpected"] & { isShare: boolean; most: number };

/** One interval as a bar on its scale, the true number on it. */
function Interval({ words, really, low, high, isShare, most }: IntervalProps) {
  const at = (value: number) => `${Math.max(0, Math.min(100, (100 * value) / most))}%`;
  const write = (value: number) => (isShare ? `${fixed(100 * value, 0)} %` : fixed(value, 2));
  return (
    <>
      <p className="text-[13px]">
        {words} would be told as{" "}
        <b>
          {write(low)} to {write(high)}
        </b>
        .
      </p>
      <div aria-hidden className="relative mt-1 h-3 rounded-full bg-hairline/50">
        <div
          className="absolute inset-y-0 rounded-full bg-ochre/60"
          style={{ left: at(low), width: `calc(${at(high)} - ${at(low)})` }}
        />
        <div className="absolute -inset-y-0.5 w-[3px] rounded bg-ink" style={{ left: at(really) }} />
      </div>
    </>
  );
}
