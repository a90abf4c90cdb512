import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { problemOf } from "../api/client";

/** A problem in words, with what to do about it. */
export function Problem({ thrown, children }: { thrown: unknown; children?: ReactNode }) {
  const problem = problemOf(thrown);
  return (
    <div role="alert" className="m-6 max-w-xl rounded-lg border border-hairline bg-sheet p-5">
      <p className="font-semibold text-clay">{problem.title}</p>
      <p className="mt-1 font-serif text-lg">{problem.detail}</p>
      <p className="mt-1 text-ink-soft">{problem.advice}</p>
      <div className="mt-3 flex gap-4">{children ?? <HomeLink />}</div>
    </div>
  );
}

const HomeLink = () => (
  <Link to="/" className="font-semibold text-moss hover:underline">
    Go to the Wall
  </Link>
);

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
