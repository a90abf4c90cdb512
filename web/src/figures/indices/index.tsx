import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { columnsOf } from "../../study/statement/words";
import { Indices } from "./indices";

type Row = Schema["IndicesRow"];

/** A table of dials, each row a click from its own page. */
function Drawing({ numbers, spec, figure, actions }: DrawingProps<"indices">) {
  const open = (row: Row) => {
    const wanted = pageOf(row, spec);
    actions.ask(wanted, (other) => JSON.stringify(asked(other)) === JSON.stringify(asked(wanted)));
  };
  return <Indices numbers={numbers} figure={figure} onOpen={open} />;
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

export default defineFigure({ method: "indices", Drawing, pointsName: "Table" });
