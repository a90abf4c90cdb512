import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, isFinal, unwrapResponse } from "../../api/client";
import { type Dataset, datasetQuery } from "../../api/queries";
import { counted, moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { notifyProblem } from "../../parts/notices";
import { Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { previewKey } from "../data/use-bring-in";
import type { Preview, ReadOptions } from "./preview";
import { RawLines } from "./raw-lines";
import { ReadAsNotes } from "./read-as";
import { SampleTable } from "./sample-table";
import { meeting, metBy, unmet } from "./target";

const route = getRouteApi("/data/bring-in/$id");

/** A file as understood, to be corrected before anything is stored. */
export function BringIn() {
  const { id } = route.useParams();
  const { to } = route.useSearch();
  const target = useQuery({ ...datasetQuery(to ?? 0), enabled: to !== undefined });
  // The preview was made when the file came in; a reload finds the file as it was understood so far.
  const { data, error } = useQuery({
    queryKey: previewKey(id),
    queryFn: async () => {
      const preview = await unwrapResponse(api.GET("/api/imports/{id}", { params: { path: { id } } }));
      return target.data && !preview.read_options.columns?.length ? metBy(preview, target.data) : preview;
    },
    enabled: to === undefined || target.data !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (error || isFinal(target.error, target.data)) {
    return <Problem thrown={error ?? target.error} to="/data" />;
  }
  if (!data || (to !== undefined && !target.data)) return null;
  return <Check key={id} id={id} preview={data} target={target.data} />;
}

function Check({ id, preview, target }: { id: number; preview: Preview; target?: Dataset }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [readOptions, setReadOptions] = useState<ReadOptions>(preview.read_options);
  const [name, setName] = useState(() => datasetName(preview.name));
  // Trials of operators are studied as a row a reading; subgroups as they stand.
  const [unfold, setUnfold] = useState((preview.wide?.operators.length ?? 0) > 0);
  /** Whether columns that the dataset has not come new. */
  const [news, setNews] = useState(false);
  const unfolds = unfold && preview.wide != null && !target;
  const latest = useRef(0);

  const correct = useMutation({
    mutationFn: async (next: ReadOptions) => {
      const turn = ++latest.current;
      let corrected = await unwrapResponse(api.PUT("/api/imports/{id}", { params: { path: { id } }, body: next }));
      if (target && !next.columns?.length) {
        const met = { ...next, columns: meeting(corrected, target, news) };
        corrected = await unwrapResponse(api.PUT("/api/imports/{id}", { params: { path: { id } }, body: met }));
        if (turn === latest.current) setReadOptions(met);
      }
      if (turn === latest.current) queries.setQueryData(previewKey(id), corrected);
    },
    onError: notifyProblem,
  });
  const change = (part: Partial<ReadOptions>) => {
    const next = { ...readOptions, ...part };
    setReadOptions(next);
    correct.mutate(next);
  };
  /** Without the corrections of before; whole, because what is not said here is taken from the file. */
  const readAfresh = () => {
    setReadOptions({});
    correct.mutate({});
  };
  const store = useMutation({
    mutationFn: () => {
      const params = { path: { id } };
      return target
        ? unwrapResponse(
            api.POST("/api/imports/{id}/rows", { params, body: { dataset_id: target.id, new_columns: news } }),
          )
        : unwrapResponse(api.POST("/api/imports/{id}/dataset", { params, body: { name, unfold: unfolds } }));
    },
    onSuccess: (dataset) => {
      queries.setQueryData(datasetQuery(dataset.id).queryKey, dataset);
      // Where rows were added, the first of them is shown.
      navigate({ to: "/data/$id", params: { id: dataset.id }, search: target ? { row: target.row_count } : {} });
    },
    onError: notifyProblem,
  });
  const leave = () => {
    api.DELETE("/api/imports/{id}", { params: { path: { id } } });
    if (target) navigate({ to: "/data/$id", params: { id: target.id } });
    else navigate({ to: "/data" });
  };

  const kept = preview.columns.filter((column) => !column.left_out).length;
  const open = preview.problem_count;
  return (
    <>
      <TopLine>
        <Link to="/data" className="hover:text-moss">
          Data
        </Link>
        <Then />
        <span className="truncate font-semibold text-ink">
          {target ? `Add ${preview.name} to ${target.name}` : `Bring in ${preview.name}`}
        </span>
      </TopLine>
      <main className="flex min-h-0 flex-1 gap-6 overflow-y-auto px-6 pb-6 pt-3.5 max-lg:flex-col max-lg:px-3">
        <div className="min-w-0 flex-1">
          <h1 className="font-serif text-2xl font-semibold">Did we read it right?</h1>
          <p className="text-ink-soft">
            Nothing is stored yet.{target && ` The rows come behind those of ${target.name}.`}
          </p>
          {preview.recipe && (
            <p>
              Read as {preview.recipe.actor} corrected the last file of this layout, {moment(preview.recipe.at)}.{" "}
              <Button look="quiet" onClick={readAfresh}>
                Read it as it seems
              </Button>
            </p>
          )}
          {target && (
            <Unmet
              preview={preview}
              target={target}
              news={news}
              onNews={(news) => {
                setNews(news);
                change({ columns: meeting(preview, target, news) });
              }}
            />
          )}
          <RawLines
            preview={preview}
            onHeader={(header_line) => change({ header_line, header_lines: undefined, columns: [], fixes: [] })}
          />
          <SampleTable preview={preview} readOptions={readOptions} onChange={change} />
          {preview.wide && !target && <Wide wide={preview.wide} on={unfold} onTurn={setUnfold} />}
          <form
            className="mt-4 flex flex-wrap items-center gap-2.5"
            onSubmit={(event) => {
              event.preventDefault();
              store.mutate();
            }}
          >
            {!target && (
              <>
                <label htmlFor="dataset-name" className="text-ink-soft">
                  as
                </label>
                <input
                  id="dataset-name"
                  value={name}
                  maxLength={120}
                  onChange={(event) => setName(event.target.value)}
                  className="h-[31px] w-64 rounded-md border border-hairline bg-sheet px-2.5"
                />
              </>
            )}
            <Button
              type="submit"
              look="primary"
              disabled={open > 0 || kept === 0 || name.trim() === "" || store.isPending || correct.isPending}
            >
              {target ? "Add" : "Bring in"} {counted(unfolds ? (preview.wide?.rows ?? 0) : preview.rows, "row", "rows")}
            </Button>
            <Button onClick={leave}>Leave it</Button>
            <span role="status" className="text-ink-soft">
              {correct.isPending && "Reading again …"}
              {!correct.isPending && open > 0 && `${counted(open, "value needs", "values need")} an answer first`}
              {kept === 0 && "Every column is left out"}
            </span>
          </form>
        </div>
        <ReadAsNotes preview={preview} readOptions={readOptions} onChange={change} />
      </main>
    </>
  );
}

/** What of the file has no place in the dataset, and what of the dataset stays empty. */
function Unmet({
  preview,
  target,
  news,
  onNews,
}: {
  preview: Preview;
  target: Dataset;
  news: boolean;
  onNews: (news: boolean) => void;
}) {
  const { nowhere, empty } = unmet(preview, target);
  return (
    <ul className="mt-1.5 text-[13px]">
      {nowhere.length > 0 && (
        <li>
          {news ? (
            <>
              <b className="text-ochre">New</b> in {target.name}, missing in the rows that it has: {nowhere.join(", ")}.
            </>
          ) : (
            <>
              <b className="text-ochre">Left out</b>, because {target.name} has no such column: {nowhere.join(", ")}.
            </>
          )}{" "}
          <label className="ml-1 inline-flex items-center gap-1.5">
            <input type="checkbox" checked={news} onChange={(event) => onNews(event.target.checked)} />
            add as {nowhere.length === 1 ? "a new column" : "new columns"}
          </label>
        </li>
      )}
      {empty.length > 0 && (
        <li>
          <b className="text-ochre">Missing</b> in the new rows: {empty.join(", ")}.
        </li>
      )}
      {nowhere.length === 0 && empty.length === 0 && <li>Every column has its place.</li>}
    </ul>
  );
}

type WideProps = { wide: NonNullable<Preview["wide"]>; on: boolean; onTurn: (on: boolean) => void };

/** Several readings in a row are offered as a row a reading. */
function Wide({ wide, on, onTurn }: WideProps) {
  const names =
    wide.operators.length > 4 ? `${wide.operators.slice(0, 3).join(", ")} and others` : wide.operators.join(", ");
  return (
    <label className="mt-4 flex max-w-2xl items-start gap-2.5 rounded-lg border border-hairline bg-sheet px-4 py-2.5">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => onTurn(event.target.checked)}
        className="mt-1 accent-moss"
      />
      <span>
        <span className="font-semibold">Unfold into a row a reading</span>
        <span className="block text-ink-soft">
          {wide.operators.length > 0
            ? `Each row is a ${wide.part}, each column a trial of ${names}: ${counted(wide.trials, "trial", "trials")} each. Studies take operator, trial and reading as columns of their own.`
            : `Each row has ${wide.trials} readings of ${wide.reading} side by side. A control chart takes them as subgroups as they stand; other studies want one column of them.`}
        </span>
      </span>
    </label>
  );
}

/** "beam-flux_may.csv" as "Beam flux may". */
function datasetName(file: string): string {
  const words = file
    .replace(/\.(csv|tsv|txt|xlsx|ods|json|parquet|zip)$/i, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
