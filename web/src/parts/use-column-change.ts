import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, problemOf, type Schema, unwrapResponse } from "../api/client";
import { type Column, type Dataset, datasetQuery, useDatasetChange } from "../api/queries";
import { propertiesOf } from "../lib/properties";

type Properties = Schema["ColumnChange"];
/** Some properties, or what becomes of those that it has by then. */
type Part = Partial<Properties> | ((now: Properties) => Properties);

/** Saves properties of a column one after the other, each on top of what is stored by then. */
export function useColumnChange(dataset: Dataset, column: Column) {
  const queries = useQueryClient();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const change = useDatasetChange((part: Part) => {
    // What was saved a moment ago is the newest state, also while the page still shows the one before.
    const newest = queries.getQueryData(datasetQuery(dataset.id).queryKey) ?? dataset;
    const now = newest.columns.find((other) => other.id === column.id) ?? column;
    const own = propertiesOf(now);
    return unwrapResponse(
      api.PUT("/api/datasets/{id}/columns/{column_id}", {
        params: { path: { id: dataset.id, column_id: column.id } },
        body: { revision: newest.revision, column: typeof part === "function" ? part(own) : { ...own, ...part } },
        // A change made while the page is closing still arrives.
        keepalive: true,
      }),
    );
  });
  // One after the other: whoever types on into the next field must not overtake what is being saved.
  const save = (part: Part) => {
    const done = queue.current.then(() => change.mutateAsync(part));
    queue.current = done.catch(() => undefined);
    return done;
  };
  return { save, problem: change.error ? problemOf(change.error) : null };
}
