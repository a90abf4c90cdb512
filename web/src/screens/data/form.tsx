import { useQuery } from "@tanstack/react-query";
import { getRouteApi } from "@tanstack/react-router";
import { api, isFinal, type Schema, unwrapResponse } from "../../api/client";
import { type Dataset, datasetQuery, gaugesQuery } from "../../api/queries";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { Loading, Problem } from "../../parts/states";
import { gaugeWords } from "../gauges/words";

const route = getRouteApi("/data/$id/print");
/** Rows of a form; no sheet is longer. */
const ROWS_MOST = 10_000;
const AT_ONCE = 500;

/** Every row, in portions as large as the server gives. */
async function allRows(dataset: Dataset): Promise<Schema["Rows"][]> {
  const portions: Schema["Rows"][] = [];
  for (let first = 0; first < Math.min(ROWS_MOST, dataset.row_count); first = first + AT_ONCE) {
    const query = { first, count: AT_ONCE };
    portions.push(
      await unwrapResponse(api.GET("/api/datasets/{id}/rows", { params: { path: { id: dataset.id }, query } })),
    );
  }
  return portions;
}

/** A sheet as a blank form: one page or more an operator, with a line to write on for each reading. */
export function FormScreen() {
  const { id } = route.useParams();
  const { data: dataset, error } = useQuery(datasetQuery(id));
  const rows = useQuery({
    queryKey: ["form", id, dataset?.revision],
    queryFn: () => allRows(dataset as Dataset),
    enabled: dataset !== undefined,
  });
  if (isFinal(error, dataset)) return <Problem thrown={error} to="/data" />;
  if (isFinal(rows.error, rows.data)) return <Problem thrown={rows.error} to="/data" />;
  if (!dataset || !rows.data) return <Loading what="the sheet" />;
  return <Form dataset={dataset} portions={rows.data} />;
}

function Form({ dataset, portions }: { dataset: Dataset; portions: Schema["Rows"][] }) {
  const gauges = useQuery(gaugesQuery).data ?? [];
  const measure = dataset.columns.find((column) => column.id === dataset.plan?.column_id);
  const gauge = gauges.find((one) => one.id === measure?.gauge_id);
  const place = (name: string) => dataset.columns.findIndex((column) => column.name === name);
  const shown = dataset.columns
    .map((column, at) => ({ column, at }))
    // What is known of a piece is not for the eyes of who reads it.
    .filter(({ column }) => column.name !== "reference" && column.name !== "operator" && column.id !== measure?.id);
  const lines = portions.flatMap(({ cells, row_ids }) =>
    row_ids.map((row, k) => ({ row, of: (at: number) => cells[at]?.[k] ?? "" })),
  );
  const operator = place("operator");
  const people = operator < 0 ? [""] : [...new Set(lines.map(({ of }) => of(operator)))];
  const limits = [measure?.lsl != null && `LSL ${measure.lsl}`, measure?.usl != null && `USL ${measure.usl}`].filter(
    Boolean,
  );
  return (
    <main className="mx-auto w-[760px] max-w-full overflow-y-auto bg-sheet px-2 py-6 print:overflow-visible">
      <Button className="mb-4 print:hidden" look="primary" onClick={() => window.print()}>
        Print
      </Button>
      {people.map((who) => {
        const own = lines.filter(({ of }) => operator < 0 || of(operator) === who);
        return (
          <section key={who} aria-label={who ? `Form of ${who}` : "Form"} className="mb-8 break-after-page">
            <h1 className="font-serif text-xl font-semibold">{dataset.name}</h1>
            <p className="mt-1">
              {[
                measure?.name,
                measure?.unit && `in ${measure.unit}`,
                ...limits,
                gauge && `gauge ${gaugeWords(gauge)}`,
                dataset.plan?.plan.planned_by && `planned by ${dataset.plan.plan.planned_by}`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </p>
            <p className="mt-2 flex items-end gap-6">
              <span>
                operator <b>{who || "…………………………"}</b>
              </span>
              <span>date ………………………</span>
              <span className="text-ink-soft">{counted(own.length, "reading", "readings")}</span>
            </p>
            <table className="mt-3 w-full border-collapse text-left">
              <thead>
                <tr>
                  {shown.map(({ column }) => (
                    <th key={column.id} className="border-b-2 border-ink px-2 py-1 font-semibold">
                      {column.name}
                    </th>
                  ))}
                  <th className="border-b-2 border-ink px-2 py-1 font-semibold">{measure?.name}</th>
                  <th className="border-b-2 border-ink px-2 py-1 font-semibold">remark</th>
                </tr>
              </thead>
              <tbody>
                {own.map(({ row, of }) => (
                  <tr key={row} className="break-inside-avoid">
                    {shown.map(({ column, at }) => (
                      <td key={column.id} className="border-b border-hairline px-2 py-1.5">
                        {of(at)}
                      </td>
                    ))}
                    <td className="w-40 border-b border-ink/60" />
                    <td className="w-40 border-b border-ink/60" />
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
    </main>
  );
}
