import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { type ReactNode, useId, useState } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import {
  type Column,
  type Dataset,
  type FilterStep,
  gaugesQuery,
  historyQuery,
  methodsQuery,
  studiesQuery,
  useDatasetChange,
} from "../../api/queries";
import { counted, isNumeric, kindWords, writer } from "../../lib/format";
import { FIELDS, type Field, hasField, isNumberField, textOf, withField } from "../../lib/properties";
import { Button } from "../../parts/button";
import { notify, notifyProblem } from "../../parts/notices";
import { SavedField } from "../../parts/saved-field";
import { useColumnChange } from "../../parts/use-column-change";
import { studyName } from "../../study/study-name";
import { gaugeWords } from "../gauges/words";
import { DifferingLimits } from "./differing-limits";
import { FormulaEditor } from "./formula-editor";
import { ColumnHealth } from "./health";
import { HistoryLine } from "./history-line";

type Of = { dataset: Dataset; column: Column };
type Props = Of & {
  summary: Schema["ColumnSummary"] | undefined;
  /** Shows some rows in the table. */
  onShow: (only: FilterStep) => void;
  /** Whether it stays in sight while others scroll. */
  held: boolean;
  onHold: (holds: boolean) => void;
};

/** What the values of a column can be. */
const RULES: Field[] = ["lower_bound", "upper_bound", "lowest", "highest", "choices", "causes"];

/** The properties of a column, changed in place; what stands in it; what was changed; what was asked of it. */
export function ColumnPanel({ dataset, column, summary, onShow, held, onHold }: Props) {
  const { save, problem } = useColumnChange(dataset, column);
  const fields = FIELDS.filter(([field]) => hasField(column, field));
  // Bounds are seldom told; those that are stand open.
  const [more, setMore] = useState(column.rules !== undefined);
  return (
    <aside
      aria-label={`Properties of ${column.name}`}
      className="w-[272px] shrink-0 overflow-y-auto pb-3 pr-1 max-lg:w-full"
    >
      <h2 className="font-serif text-lg font-semibold">{column.name}</h2>
      <div className="mt-2 flex flex-col gap-1.5">
        <SavedField label="name" value={column.name} onSave={(name) => save({ name })} />
        {column.formula == null ? (
          <KindField kind={column.kind} onSave={(kind) => save({ kind })} />
        ) : (
          <KeptFormula
            key={column.formula}
            dataset={dataset}
            column={column}
            formula={column.formula}
            onSave={(formula) => save({ formula })}
          />
        )}
        {fields
          .filter(([field]) => more || !RULES.includes(field))
          .map(([field, label]) => (
            <SavedField
              key={field}
              label={label}
              value={textOf(column, field)}
              numeric={isNumberField(field)}
              onSave={(text) => save((now) => withField(now, field, text))}
            />
          ))}
        {isNumeric(column.kind) && <DifferingLimits dataset={dataset} column={column} />}
        {!more && fields.length > 0 && (
          <Button look="quiet" onClick={() => setMore(true)}>
            {column.kind === "category" ? "Choices" : "What it can be, and causes"}
          </Button>
        )}
        <GaugeField column={column} onSave={(gauge_id) => save({ gauge_id })} />
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-clay">
          {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
        </p>
      )}
      <ColumnDeeds dataset={dataset} column={column} onPlain={() => save({ formula: null }).catch(() => undefined)}>
        <Button look="quiet" onClick={() => onHold(!held)}>
          {held ? "Let it scroll" : "Freeze up to here"}
        </Button>
      </ColumnDeeds>
      {summary && (
        <Contents column={column} summary={summary}>
          <ColumnHealth dataset={dataset} column={column} onShow={onShow} />
        </Contents>
      )}
      <Changes dataset={dataset} column={column} />
      <Asked dataset={dataset} column={column} />
    </aside>
  );
}

/** The formula of a column, kept when it can be read and is meant. */
function KeptFormula({
  dataset,
  column,
  formula,
  onSave,
}: Of & { formula: string; onSave: (formula: string) => Promise<unknown> }) {
  const [text, setText] = useState(formula);
  const [readable, setReadable] = useState(false);
  const keep = () => {
    if (readable && text !== formula) onSave(text).catch(() => undefined);
  };
  return (
    <>
      <FormulaEditor
        dataset={dataset}
        column={column.id}
        text={text}
        onText={setText}
        onRead={setReadable}
        onKeep={keep}
      />
      {text !== formula && (
        <div className="flex gap-3">
          <Button look="primary" disabled={!readable} onClick={keep}>
            Keep it
          </Button>
          <Button look="quiet" onClick={() => setText(formula)}>
            As it was
          </Button>
        </div>
      )}
    </>
  );
}

/** What can be done with the column as a whole. */
function ColumnDeeds({ dataset, column, onPlain, children }: Of & { onPlain: () => void; children: ReactNode }) {
  const path = { id: dataset.id };
  const duplicate = useDatasetChange(dataset, () => {
    const given = dataset.columns.map(({ name }) => name);
    const names = [`${column.name} again`, ...given.map((_, k) => `${column.name} again ${k + 2}`)];
    const name = names.find((name) => !given.includes(name)) ?? column.name;
    const at = dataset.columns.indexOf(column) + 1;
    const body = { revision: dataset.revision, column: { name, copy_of: column.id, at } };
    return unwrapResponse(api.POST("/api/datasets/{id}/columns", { params: { path }, body })).then(
      ({ dataset }) => dataset,
    );
  });
  const remove = useDatasetChange(dataset, () =>
    unwrapResponse(
      api.DELETE("/api/datasets/{id}/columns/{column_id}", {
        params: { path: { ...path, column_id: column.id } },
        body: { revision: dataset.revision },
      }),
    ),
  );
  return (
    <div className="mt-2 flex flex-wrap gap-x-3.5 gap-y-1">
      {column.formula != null && (
        <Button look="quiet" onClick={onPlain}>
          Turn into plain values
        </Button>
      )}
      <Button look="quiet" onClick={() => duplicate.mutate(undefined, { onError: notifyProblem })}>
        Duplicate column
      </Button>
      {children}
      <Button
        look="quiet"
        onClick={() =>
          remove.mutate(undefined, {
            onSuccess: () => notify(`Deleted the column ${column.name}; Undo brings it back.`),
            onError: notifyProblem,
          })
        }
      >
        Delete column
      </Button>
    </div>
  );
}

function KindField({ kind, onSave }: { kind: Column["kind"]; onSave: (kind: Column["kind"]) => Promise<unknown> }) {
  const id = useId();
  return (
    <div className="flex items-center">
      <label htmlFor={id} className="w-[92px] shrink-0">
        kind
      </label>
      <select
        id={id}
        value={kind}
        onChange={(event) => onSave(event.target.value as Column["kind"]).catch(() => undefined)}
        className="h-[30px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-1.5"
      >
        {Object.entries(kindWords).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

/** The gauge that the column is measured with, of those that are entered. */
function GaugeField({ column, onSave }: { column: Column; onSave: (gauge: number | null) => Promise<unknown> }) {
  const id = useId();
  const gauges = useQuery(gaugesQuery).data ?? [];
  if (gauges.length === 0) return null;
  return (
    <div className="flex items-center">
      <label htmlFor={id} className="w-[92px] shrink-0">
        gauge
      </label>
      <select
        id={id}
        value={column.gauge_id ?? ""}
        onChange={(event) => onSave(event.target.value ? Number(event.target.value) : null).catch(() => undefined)}
        className="h-[30px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-1.5"
      >
        <option value="">none named</option>
        {gauges.map((gauge) => (
          <option key={gauge.id} value={gauge.id}>
            {gaugeWords(gauge)}
          </option>
        ))}
      </select>
    </div>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="mt-3">
    <h3 className="mb-1 text-[13px] font-semibold text-ink-soft">{title}</h3>
    {children}
  </section>
);

function Contents({
  column,
  summary,
  children,
}: {
  column: Column;
  summary: Schema["ColumnSummary"];
  children: ReactNode;
}) {
  const write = writer(column.decimals ?? summary.decimals, column.unit);
  return (
    <Part title="What stands in it">
      <p>
        {counted(summary.n, "value", "values")},{" "}
        {summary.missing === 0 ? "none" : summary.missing.toLocaleString("en-US")} missing
      </p>
      {summary.mean != null && (
        <p>
          mean {write.bareComputed(summary.mean)}
          {summary.sd != null && `, sd ${write.bareComputed(summary.sd)}`} {write.unit}
        </p>
      )}
      {summary.distinct > 0 && <p>{counted(summary.distinct, "label", "different labels")}</p>}
      {children}
    </Part>
  );
}

function Changes({ dataset, column }: { dataset: Dataset; column: Column }) {
  const changes = (useQuery(historyQuery(dataset)).data ?? []).filter((one) => one.column_id === column.id).slice(0, 4);
  if (changes.length === 0) return null;
  return (
    <Part title="Changes">
      {changes.map((one) => (
        <HistoryLine key={one.id} change={one} />
      ))}
    </Part>
  );
}

function Asked({ dataset, column }: { dataset: Dataset; column: Column }) {
  const studies = useQuery(studiesQuery).data ?? [];
  const methods = useQuery(methodsQuery).data ?? [];
  const own = studies.filter(
    ({ dataset_id, subject }) => dataset_id === dataset.id && subject?.columns.includes(column.name),
  );
  if (own.length === 0) return null;
  return (
    <Part title="Asked of it">
      {own.map((study) => (
        <Link
          key={study.id}
          to="/study/$id"
          params={{ id: study.id }}
          className="mb-1.5 block rounded-lg border border-hairline bg-sheet px-3 py-1.5 hover:border-moss"
        >
          {studyName(study, methods)}
        </Link>
      ))}
    </Part>
  );
}
