import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemOf, type Schema, sendFile, unwrapResponse } from "../../api/client";
import { type Column, type Dataset, useDatasetChange } from "../../api/queries";
import { counted, kindWords } from "../../lib/format";
import { FIELDS, type Field, fitsField, hasField, propertiesOf, textOf, withField } from "../../lib/properties";
import { Button } from "../../parts/button";
import { CloseDesk, Desk } from "../../parts/desk";
import { notify } from "../../parts/notices";

/** What is typed over the properties, by column and field. */
type Draft = Record<string, string>;

type Props = { dataset: Dataset; open: boolean; onOpenChange: (open: boolean) => void };

const keyOf = (column: number, field: Field) => `${column} ${field}`;

/** The properties of all columns side by side, kept together and undone in one step; a specification list fills them in. */
export function AllProperties({ dataset, open, onOpenChange }: Props) {
  // What is typed outlasts closing.
  const [draft, setDraft] = useState<Draft>({});
  /** Limits by product or date that a list gives, by column. */
  const [tables, setTables] = useState<Record<number, Schema["LimitTable"]>>({});
  const [nowhere, setNowhere] = useState<string[]>([]);
  const forget = () => {
    setDraft({});
    setTables({});
    setNowhere([]);
  };
  const change = useDatasetChange(dataset, (columns: Schema["OneColumn"][]) =>
    unwrapResponse(
      api.PUT("/api/datasets/{id}/properties", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, columns },
      }),
    ),
  );
  const list = useMutation({
    mutationFn: (file: File) =>
      sendFile<Schema["ReadSpecifications"]>(`/api/datasets/${dataset.id}/specifications`, file.name, file),
    onSuccess: ({ columns, nowhere }) => {
      const filled: Draft = {};
      for (const column of columns)
        for (const [field] of FIELDS) filled[keyOf(column.column_id, field)] = textOf(column, field);
      setDraft({ ...draft, ...filled });
      const told = columns.flatMap(({ column_id, limit_table }) => (limit_table ? [[column_id, limit_table]] : []));
      setTables({ ...tables, ...Object.fromEntries(told) });
      setNowhere(nowhere);
    },
  });
  const fields = FIELDS.filter(([field]) => dataset.columns.some((column) => hasField(column, field)));
  const shown = (column: Column, field: Field) => draft[keyOf(column.id, field)] ?? textOf(column, field);
  const isNew = (column: Column, field: Field) => shown(column, field) !== textOf(column, field);
  const changed = dataset.columns.filter(
    (column) => tables[column.id] || fields.some(([field]) => hasField(column, field) && isNew(column, field)),
  );
  const wrong = changed.some((column) => FIELDS.some(([field]) => !fitsField(field, shown(column, field))));
  const keep = () => {
    const wanted = changed.map((column) => {
      const typed = fields.filter(([field]) => hasField(column, field) && isNew(column, field));
      const properties = typed.reduce(
        (so, [field]) => withField(so, field, shown(column, field)),
        propertiesOf(column),
      );
      const limit_table = tables[column.id] ?? properties.limit_table;
      return { column_id: column.id, ...properties, limit_table };
    });
    change.mutate(wanted, {
      onSuccess: () => {
        forget();
        onOpenChange(false);
        notify(`Changed ${counted(wanted.length, "column", "columns")}; Undo takes it back.`);
      },
    });
  };
  const thrown = change.error ?? list.error;
  const problem = thrown ? problemOf(thrown) : null;
  return (
    <Desk title="Properties of all columns" width="w-[1180px]" open={open} onOpenChange={onOpenChange}>
      <section
        aria-label="Columns and their properties"
        className="min-h-0 overflow-auto rounded-xl border border-hairline bg-sheet"
      >
        <table className="w-full text-left">
          <thead>
            <tr className="sticky top-0 z-10 bg-paper text-[13px] text-ink-soft">
              <th className="px-3 py-1.5 font-medium">column</th>
              {fields.map(([field, words]) => (
                <th key={field} className="px-1.5 py-1.5 font-medium">
                  {words}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {dataset.columns.map((column) => (
              <tr key={column.id} className="border-t border-hairline/60">
                <th scope="row" className="whitespace-nowrap px-3 py-1 font-medium">
                  {column.name}
                  <span className="block text-[12.5px] font-normal text-ink-soft">{kindWords[column.kind]}</span>
                  {tables[column.id] && (
                    <span className="block text-[12.5px] text-ochre">
                      {counted(tables[column.id]?.rows.length ?? 0, "line", "lines")} of limits by product or date
                    </span>
                  )}
                </th>
                {fields.map(([field, words]) => (
                  <td key={field} className="px-1 py-1">
                    {hasField(column, field) && (
                      <input
                        aria-label={`${words} of ${column.name}`}
                        aria-invalid={!fitsField(field, shown(column, field))}
                        value={shown(column, field)}
                        onChange={(event) => setDraft({ ...draft, [keyOf(column.id, field)]: event.target.value })}
                        className={`h-[30px] w-full rounded-md border px-2 aria-invalid:border-clay ${field === "choices" || field === "causes" ? "min-w-40" : "min-w-16"} ${
                          isNew(column, field) ? "border-ochre bg-wash font-semibold" : "border-hairline bg-sheet"
                        }`}
                      />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <p className="text-[13px] text-ink-soft">
        Below the lower bound and above the upper one no value is taken; outside what is believed values are taken and
        told. Choices are parted by commas, causes by semicolons.
      </p>
      {nowhere.length > 0 && (
        <p role="status">
          <b className="text-ochre">Not here:</b> {nowhere.join(", ")}. The list names them, this data has no such
          column.
        </p>
      )}
      {problem && (
        <p role="alert" className="text-clay">
          {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-2.5">
        <Button look="primary" disabled={changed.length === 0 || wrong || change.isPending} onClick={keep}>
          Keep {counted(changed.length, "changed column", "changed columns")}
        </Button>
        <Button disabled={changed.length === 0} onClick={forget}>
          As they were
        </Button>
        <span className="flex-1" />
        <label className="cursor-pointer font-semibold text-moss hover:underline focus-within:outline-2">
          Read a specification list
          <input
            type="file"
            accept=".csv,.tsv,.txt,.xlsx,.ods"
            className="sr-only"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) list.mutate(file);
              event.target.value = "";
            }}
          />
        </label>
        <CloseDesk />
      </div>
    </Desk>
  );
}
