import type { QueryClient } from "@tanstack/react-query";
import type { Schema } from "./client";

/** Listens to what changes on the server and makes every open page read it anew. */
export function listen(queries: QueryClient): () => void {
  const events = new EventSource("/api/events");
  events.addEventListener("change", (message) => {
    const change = JSON.parse(message.data) as Schema["LiveEvent"];
    switch (change.kind) {
      case "dataset":
        invalidate(queries, ["datasets"], ["dataset", change.id], ["wall"]);
        break;
      case "study":
        invalidate(queries, ["studies"], ["study", change.id], ["wall"]);
        break;
      case "everything":
        queries.invalidateQueries();
    }
  });
  return () => events.close();
}

function invalidate(queries: QueryClient, ...keys: readonly (readonly unknown[])[]) {
  for (const queryKey of keys) queries.invalidateQueries({ queryKey });
}
