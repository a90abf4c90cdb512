import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, problemOf, type Schema, unwrapResponse } from "../../api/client";
import { datasetQuery, datasetsQuery } from "../../api/queries";
import { counted, isNumeric } from "../../lib/format";
import { Button } from "../../parts/button";
import { CloseDesk, Desk } from "../../parts/desk";
import { Chosen, Field, Pick, Typed } from "./make-table-fields";
import { isPlain, type Shown } from "./shown";

type Shape = Schema["Reshape"];
type How = Shape["how"];
type Props = { shown: Shown; open: boolean; onOpenChange: (open: boolean) => void };

const HOWS: [How, string, string][] = [
  ["stack", "Stack", "The values of several columns under each other, with the column's name beside each."],
  ["unstack", "Unstack", "A column for each label, a row for what is alike in every other column."],
  ["join", "Join", "Columns of another dataset beside these, where the key is the same."],
  ["summary", "Sum up", "A row for each group, with what its values come to."],
];

const STATISTICS: Schema["Statistic"][] = ["count", "missing", "mean", "sd", "min", "max", "range", "median", "sum"];

/** Makes a new dataset of what the table shows: stacked, unstacked, joined or summed up; shown before it is stored. */
export function MakeTable({ shown, open, onOpenChange }: Props) {
  const { dataset, view } = shown;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [how, setHow] = useState<How>("stack");
  const [name, setName] = useState(`${dataset.name}, made anew`);
  const [columns, setColumns] = useState<string[]>([]);
  const [of, setOf] = useState<string[]>([]);
  const [label, setLabel] = useState("column");
  const [value, setValue] = useState("value");
  const [numbers, setNumbers] = useState<Schema["Statistic"][]>(["count", "mean", "sd"]);
  const [withId, setWithId] = useState<number | null>(null);
  const [here, setHere] = useState("");
  const [there, setThere] = useState("");
  // Sums are wanted of what is measured next, too; other tables are mostly worked on.
  const [chosenToFollow, setFollows] = useState<boolean | null>(null);
  const follows = chosenToFollow ?? how === "summary";
  const datasets = useQuery({ ...datasetsQuery, enabled: open }).data ?? [];
  const other = datasets.find(({ id }) => id === withId);
  const all = shown.columns.map((column) => column.name);
  const labels = shown.columns.filter(({ kind }) => !isNumeric(kind)).map((column) => column.name);
  const turn = (next: How) => {
    setHow(next);
    setColumns([]);
    setOf([]);
    setLabel(next === "stack" ? "column" : "");
    setValue(next === "stack" ? "value" : "");
  };
  const shape = shapeOf();
  function shapeOf(): Shape | null {
    switch (how) {
      case "stack":
        return columns.length > 1 && label && value ? { how, columns, label, value } : null;
      case "unstack":
        return label && value ? { how, label, value } : null;
      case "join":
        return other && here && there && of.length > 0 ? { how, by: [[here, there]], bring: of } : null;
      case "summary":
        return columns.length > 0 && of.length > 0 && numbers.length > 0 ? { how, by: columns, of, numbers } : null;
    }
  }
  const wanted = { view, with: how === "join" ? withId : undefined, shape: shape as Shape };
  const make = (name?: string) =>
    unwrapResponse(
      api.POST("/api/datasets/{id}/reshaped", {
        params: { path: { id: dataset.id } },
        body: { ...wanted, name, follows },
      }),
    );
  const seen = useQuery({
    queryKey: ["reshaped", dataset.id, dataset.revision, wanted],
    queryFn: () => make(),
    enabled: open && shape !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const store = useMutation({
    mutationFn: () => make(name),
    onSuccess: ({ dataset: made }) => {
      onOpenChange(false);
      if (made) {
        queries.setQueryData(datasetQuery(made.id).queryKey, made);
        navigate({ to: "/data/$id", params: { id: made.id } });
      }
    },
  });
  const thrown = store.error ?? (shape ? seen.error : null);
  const problem = thrown ? problemOf(thrown) : null;
  const made = shape && !seen.error ? seen.data : undefined;
  return (
    <Desk title="Make a table of this one" width="w-[980px]" open={open} onOpenChange={onOpenChange}>
      <div className="flex flex-wrap gap-2">
        {HOWS.map(([one, words]) => (
          <Button
            key={one}
            look={one === how ? "primary" : "plain"}
            aria-pressed={one === how}
            onClick={() => turn(one)}
          >
            {words}
          </Button>
        ))}
      </div>
      <p className="text-ink-soft">
        {HOWS.find(([one]) => one === how)?.[2]}
        {!isPlain(view) && " Only the rows that the table shows are taken."}
      </p>
      {how === "stack" && (
        <>
          <Chosen label="columns to stack" names={all} chosen={columns} onChoose={setColumns} />
          <div className="flex gap-4">
            <Typed label="their names go into" value={label} onType={setLabel} />
            <Typed label="their values go into" value={value} onType={setValue} />
          </div>
        </>
      )}
      {how === "unstack" && (
        <div className="flex gap-4">
          <Pick label="a column for each label of" names={all} value={label} onPick={setLabel} />
          <Pick label="values from" names={all.filter((name) => name !== label)} value={value} onPick={setValue} />
        </div>
      )}
      {how === "join" && (
        <>
          <div className="flex flex-wrap gap-4">
            <Field label="with the dataset">
              <select
                value={withId ?? ""}
                onChange={(event) => {
                  setWithId(Number(event.target.value) || null);
                  setThere("");
                  setOf([]);
                }}
                className="h-[31px] min-w-56 rounded-md border border-hairline bg-sheet px-1.5"
              >
                <option value="">choose one</option>
                {datasets
                  .filter(({ id }) => id !== dataset.id)
                  .map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
              </select>
            </Field>
            <Pick label="key here" names={all} value={here} onPick={setHere} />
            <Pick
              label="key there"
              names={other?.columns.map((column) => column.name) ?? []}
              value={there}
              onPick={setThere}
            />
          </div>
          {other && (
            <Chosen
              label="columns to bring"
              names={other.columns.map((column) => column.name).filter((name) => name !== there)}
              chosen={of}
              onChoose={setOf}
            />
          )}
        </>
      )}
      {how === "summary" && (
        <>
          <Chosen
            label="groups by"
            names={[...labels, ...all.filter((name) => !labels.includes(name))]}
            chosen={columns}
            onChoose={setColumns}
          />
          <Chosen label="sum up" names={all.filter((name) => !columns.includes(name))} chosen={of} onChoose={setOf} />
          <Chosen
            label="tell"
            names={STATISTICS}
            chosen={numbers}
            onChoose={(names) => setNumbers(names as Schema["Statistic"][])}
          />
        </>
      )}
      {problem && (
        <p role="alert" className="text-clay">
          {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
        </p>
      )}
      {made && <Sample made={made} isJoin={how === "join"} />}
      <form
        className="flex flex-wrap items-end gap-2.5"
        onSubmit={(event) => {
          event.preventDefault();
          store.mutate();
        }}
      >
        <Typed label="called" value={name} onType={setName} wide />
        <label className="flex h-[31px] items-center gap-2">
          <input
            type="checkbox"
            className="accent-moss"
            checked={follows}
            onChange={(event) => setFollows(event.target.checked)}
          />
          made anew whenever {how === "join" ? "these tables change" : "this one changes"}
        </label>
        <Button look="primary" type="submit" disabled={!made || name.trim() === "" || store.isPending}>
          {made ? `Make ${counted(made.rows, "row", "rows")}` : "Make it"}
        </Button>
        <span className="flex-1" />
        <CloseDesk />
      </form>
    </Desk>
  );
}

/** The first rows of what would be made. */
function Sample({ made, isJoin }: { made: Schema["MadeTable"]; isJoin: boolean }) {
  const rows = made.columns[0]?.first.length ?? 0;
  return (
    <>
      <section aria-label="First rows of it" className="overflow-auto rounded-xl border border-hairline bg-sheet">
        <table className="w-full text-left">
          <thead>
            <tr className="bg-paper">
              {made.columns.map((column) => (
                <th key={column.name} className="whitespace-nowrap border-l border-hairline px-2.5 py-1 font-semibold">
                  {column.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: rows }, (_, row) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows are known by their number
              <tr key={row} className="border-t border-hairline/60">
                {made.columns.map((column) => (
                  <td
                    key={column.name}
                    className={`whitespace-nowrap border-l border-hairline/60 px-2.5 py-[3px] ${isNumeric(column.kind) ? "text-right" : ""}`}
                  >
                    {column.first[row] == null ? "" : short(column.first[row], column.kind)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <p role="status" className="text-[13px] text-ink-soft">
        {counted(made.rows, "row", "rows")}, {counted(made.columns.length, "column", "columns")}
        {isJoin &&
          (made.unmatched === 0
            ? "; every row found its key"
            : `; ${counted(made.unmatched, "row finds", "rows find")} no such key there and get no values`)}
        .
      </p>
    </>
  );
}

const short = (text: string, kind: Schema["Kind"]) =>
  isNumeric(kind) && text.length > 9 ? String(Number(Number(text).toPrecision(6))) : text;
