import { useQuery } from "@tanstack/react-query";
import { api, unwrapResponse } from "../../api/client";
import type { Column, Dataset } from "../../api/queries";

/** Why the chosen cell of a column that is worked out has no value. */
export function WhyMissing({ dataset, column, row }: { dataset: Dataset; column: Column; row: number }) {
  const { data } = useQuery({
    queryKey: ["why", dataset.id, dataset.revision, column.id, row],
    queryFn: () =>
      unwrapResponse(
        api.GET("/api/datasets/{id}/columns/{column_id}/why", {
          params: { path: { id: dataset.id, column_id: column.id }, query: { row } },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!data?.why) return null;
  return (
    <p role="status" className="absolute right-0 top-full z-10 mt-1.5 rounded-full bg-tint px-4 text-[13px]">
      Row {row + 1} has no {column.name}: {data.why}.
    </p>
  );
}
