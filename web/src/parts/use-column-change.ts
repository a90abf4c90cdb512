import { api, problemOf, type Schema, unwrapResponse } from "../api/client";
import { type Column, type Dataset, useDatasetChange } from "../api/queries";
import { propertiesOf } from "../lib/properties";

type Properties = Schema["ColumnChange"];
/** Some properties, or what becomes of those that it has by then. */
type Part = Partial<Properties> | ((now: Properties) => Properties);

/** Saves properties of a column, each on top of what is stored by then: whoever types on into the next field overtakes nothing. */
export function useColumnChange(dataset: Dataset, column: Column) {
  const change = useDatasetChange(dataset, (part: Part, newest) => {
    const own = propertiesOf(newest.columns.find((other) => other.id === column.id) ?? column);
    return unwrapResponse(
      api.PUT("/api/datasets/{id}/columns/{column_id}", {
        params: { path: { id: dataset.id, column_id: column.id } },
        body: { revision: newest.revision, column: typeof part === "function" ? part(own) : { ...own, ...part } },
        // A change made while the page is closing still arrives.
        keepalive: true,
      }),
    );
  });
  return { save: change.mutateAsync, problem: change.error ? problemOf(change.error) : null };
}
