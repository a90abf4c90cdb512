import type { QueryClient } from "@tanstack/react-query";
import type { Schema } from "./client";

let connected = true;
const watchers = new Set<() => void>();

function setConnected(now: boolean) {
  if (now === connected) return;
  connected = now;
  for (const watcher of watchers) watcher();
}

/** Whether the server answers, for the bar that says when it does not. */
export const connection = {
  subscribe: (watcher: () => void) => {
    watchers.add(watcher);
    return () => watchers.delete(watcher);
  },
  isUp: () => connected,
};

/** Listens to what changes on the server and makes every open page read it anew. */
export function listen(queries: QueryClient): () => void {
  const events = new EventSource("/api/events");
  events.addEventListener("change", (message) => {
    // What changed in a short while comes together, so that what shows several of them is read anew once.
    const changes = JSON.parse(message.data) as Schema["LiveEvent"][];
    if (changes.some(({ kind }) => kind === "everything")) {
      queries.invalidateQueries();
      return;
    }
    const kinds = new Set(changes.map(({ kind }) => kind));
    if (kinds.has("dataset")) invalidate(queries, ["datasets"]);
    if (kinds.has("study")) invalidate(queries, ["studies"]);
    if (kinds.has("floor")) invalidate(queries, ["plan"], ["lists"], ["wall"]);
    if (kinds.has("floor") || kinds.has("dataset")) invalidate(queries, ["floor"], ["entries"]);
    if (kinds.has("jobs")) invalidate(queries, ["jobs"]);
    if (kinds.has("dataset") || kinds.has("study")) invalidate(queries, ["wall"], ["open-work"]);
    for (const change of changes) if ("id" in change) invalidate(queries, [change.kind, change.id]);
  });
  events.addEventListener("open", () => {
    setConnected(true);
    // What was read before the stream was open may have changed in between.
    queries.invalidateQueries({ predicate: ({ state }) => state.dataUpdatedAt > 0 });
  });
  events.addEventListener("error", () => setConnected(false));
  return () => events.close();
}

function invalidate(queries: QueryClient, ...keys: readonly (readonly unknown[])[]) {
  for (const queryKey of keys) queries.invalidateQueries({ queryKey });
}
