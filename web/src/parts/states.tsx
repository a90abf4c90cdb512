import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { problemOf } from "../api/client";

const WAYS_ON = { "/": "Go to the Wall", "/data": "Go to Data" } as const;

type ProblemProps = { thrown: unknown; to?: keyof typeof WAYS_ON; children?: ReactNode };

/** A problem in words, with what to do about it and a way on, or what stands in its place. */
export function Problem({ thrown, to = "/", children }: ProblemProps) {
  const problem = problemOf(thrown);
  return (
    <div role="alert" className="m-6 max-w-xl rounded-lg border border-hairline bg-sheet p-5">
      <p className="font-semibold text-clay">{problem.title}</p>
      <p className="mt-1 font-serif text-lg first-letter:uppercase">{problem.detail}</p>
      <p className="mt-1 text-ink-soft">{problem.advice}</p>
      <div className="mt-3">
        {children ?? (
          <Link to={to} className="font-semibold text-moss hover:underline">
            {WAYS_ON[to]}
          </Link>
        )}
      </div>
    </div>
  );
}

/** Nothing here yet, and what to do first. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mx-auto mt-16 max-w-md text-center">
      <h2 className="font-serif text-2xl">{title}</h2>
      <div className="mt-3 text-ink-soft">{children}</div>
    </div>
  );
}

/** Still loading; says so to a screen reader and stays quiet for the first moment. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-ink-soft">
      Reading {what} …
    </p>
  );
}
