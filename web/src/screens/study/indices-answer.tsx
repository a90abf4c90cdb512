import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useRef } from "react";
import { isFinal, type Schema } from "../../api/client";
import { outcomeQuery, type Spec, studiesQuery, useCreateStudy } from "../../api/queries";
import { Indices } from "../../figures/indices/indices";
import { rowName } from "../../figures/indices/row-name";
import { fixed, grouped } from "../../lib/format";
import { useSize } from "../../lib/use-size";
import { notifyProblem } from "../../parts/notices";
import { columnsOf, isComplete } from "../../study/statement/words";
import type { AnswerProps } from "./answer";
import { AnswerBody } from "./answer-body";

type Row = Schema["IndicesRow"];

/** "Which of them can meet their limits?" answered: a table of dials, each row a click from its own page. */
export function IndicesAnswer(props: AnswerProps) {
  const { study, dataset, card } = props;
  const { spec } = study;
  const navigate = useNavigate();
  const create = useCreateStudy();
  const studies = useQuery(studiesQuery).data ?? [];
  const [frame] = useSize<HTMLDivElement>();
  const figure = useRef<SVGSVGElement>(null);
  const complete = isComplete(card, spec);
  const query = outcomeQuery(study, dataset, {});
  const outcome = useQuery({ ...query, enabled: complete });
  const answer = complete && !isFinal(outcome.error, outcome.data) ? outcome.data : undefined;
  const numbers = answer?.numbers as Schema["IndicesNumbers"] | undefined;

  const open = async (row: Row) => {
    const wanted = pageOf(row, spec);
    const there = studies.find(
      (other) => other.dataset_id === dataset.id && JSON.stringify(asked(other.spec)) === JSON.stringify(asked(wanted)),
    );
    const { id } = there ?? (await create.mutateAsync(wanted));
    navigate({ to: "/study/$id", params: { id } });
  };

  return (
    <AnswerBody
      {...props}
      outcome={outcome}
      asked={query.queryKey}
      answer={answer}
      below={frame}
      figure={figure}
      pointsName="Table"
      ledger={
        numbers
          ? {
              short: [
                ["asked for", `Ppk ${fixed(numbers.goal, 2)}`],
                ["rows", grouped(numbers.rows.length)],
              ],
              numbers: <Shapes rows={numbers.rows} />,
              points: <Shapes rows={numbers.rows} />,
            }
          : null
      }
    >
      {numbers && <Indices numbers={numbers} figure={figure} onOpen={(row) => open(row).catch(notifyProblem)} />}
    </AnswerBody>
  );
}

/** The same question about one row. */
function pageOf(row: Row, spec: Spec): Spec {
  const [group] = columnsOf(spec, "group");
  const [order] = columnsOf(spec, "order");
  const { shape, goal } = spec.options ?? {};
  return {
    method: "capability",
    roles: { measure: row.column, ...(order && { order }), ...(group && row.group != null && { group }) },
    options: {
      ...(group && row.group != null && { only: { label: row.group } }),
      ...(typeof shape === "string" && { shape }),
      ...(typeof goal === "number" && { goal }),
    },
    data: spec.data,
  };
}

/** What makes two questions the same page: measurement, group, shape and what is asked for. */
function asked({ method, roles, options }: Spec) {
  return [
    method,
    roles?.measure,
    roles?.group ?? null,
    options?.only ?? null,
    options?.shape ?? "normal",
    options?.goal ?? null,
  ];
}

/** The shapes behind the rows, for the ledger. */
function Shapes({ rows }: { rows: Row[] }) {
  return (
    <table>
      <thead className="text-[13px] text-ink-soft">
        <tr>
          {["what", "shape taken", "its p", "seen out", "limits"].map((head) => (
            <th key={head} className="pb-1 pr-8 text-left font-medium">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={rowName(row)} className="border-t border-hairline">
            <th scope="row" className="py-1 pr-8 text-left font-medium">
              {rowName(row)}
            </th>
            <td className="pr-8">{row.shape || "–"}</td>
            <td className="pr-8">{row.shape_p == null ? "–" : fixed(row.shape_p, 3)}</td>
            <td className="pr-8">{row.seen_out == null ? "–" : `${Math.round(row.seen_out * row.n)} of ${row.n}`}</td>
            <td>{[row.lsl, row.usl].map((limit) => (limit == null ? "open" : String(limit))).join(" to ")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
