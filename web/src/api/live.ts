import type { Query, QueryClient } from "@tanstack/react-query";
import type { Schema } from "./client";

type LiveEvent = Schema["LiveEvent"];

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

/** Queries that show something of each kind of thing, by the first part of their key. */
const SHOWN_IN: Record<Exclude<LiveEvent["kind"], "everything" | "gauges">, readonly string[]> = {
  // Statements name columns, and gauges say what they measure.
  dataset: ["datasets", "dataset", "studies", "study", "gauges", "gauge", "floor", "entries", "wall", "open-work"],
  views: ["views"],
  study: ["studies", "study", "wall", "open-work"],
  floor: ["floor", "plan", "lists", "entries", "wall"],
  jobs: ["jobs"],
};

/** What is read anew after some events: every page learns of a change here and nowhere else, also of its own. */
export function touchedBy(events: readonly LiveEvent[]): (query: Pick<Query, "queryKey" | "state">) => boolean {
  // What a gauge study says stands in the answers about every column of that gauge.
  if (events.some(({ kind }) => kind === "everything" || kind === "gauges")) return () => true;
  return ({ queryKey: [what, id], state: { data } }) => {
    const known = (data as { revision?: number } | undefined)?.revision;
    // Of an event about itself, a thing with revisions needs to learn only what is not at hand yet.
    const isNews = (event: LiveEvent) =>
      event.kind !== what || !("revision" in event) || (event.id === id && event.revision !== known);
    return events.some(
      (event) => SHOWN_IN[event.kind as keyof typeof SHOWN_IN].includes(String(what)) && isNews(event),
    );
  };
}

/** Listens to what changes on the server and makes every open page read it anew. */
export function listen(queries: QueryClient): () => void {
  const events = new EventSource("/api/events");
  events.addEventListener("change", (message) => {
    // What changed in a short while comes together, so that what shows several of them is read anew once.
    queries.invalidateQueries({ predicate: touchedBy(JSON.parse(message.data) as LiveEvent[]) });
  });
  events.addEventListener("open", () => {
    setConnected(true);
    // What was read before the stream was open may have changed in between.
    queries.invalidateQueries({ predicate: ({ state }) => state.dataUpdatedAt > 0 });
  });
  events.addEventListener("error", () => setConnected(false));
  return () => events.close();
}
