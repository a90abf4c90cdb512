import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, taken } from "../../api/client";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { notifyProblem } from "../../parts/notices";
import { Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { previewKey } from "../data/use-bring-in";
import type { Preview, Wish } from "./preview";
import { RawLines } from "./raw-lines";
import { ReadAsNotes } from "./read-as";
import { SampleTable } from "./sample-table";

const route = getRouteApi("/data/bring-in/$id");

/** A file as understood, to be corrected before anything is stored. */
export function BringIn() {
  const { id } = route.useParams();
  // The preview was made when the file came in; a reload reads the waiting file again.
  const { data, error } = useQuery({
    queryKey: previewKey(id),
    queryFn: () => taken(api.PUT("/api/imports/{id}", { params: { path: { id } }, body: {} })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (error) {
    return <Problem thrown={error} to="/data" />;
  }
  return data ? <Check key={id} id={id} preview={data} /> : null;
}

function Check({ id, preview }: { id: number; preview: Preview }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [wish, setWish] = useState<Wish>({});
  const [name, setName] = useState(() => datasetName(preview.name));
  const [unfold, setUnfold] = useState(true);
  const unfolds = unfold && preview.wide != null;
  const latest = useRef(0);

  const correct = useMutation({
    mutationFn: async (next: Wish) => {
      const turn = ++latest.current;
      const corrected = await taken(api.PUT("/api/imports/{id}", { params: { path: { id } }, body: next }));
      if (turn === latest.current) queries.setQueryData(previewKey(id), corrected);
    },
    onError: notifyProblem,
  });
  const change = (part: Partial<Wish>) => {
    const next = { ...wish, ...part };
    setWish(next);
    correct.mutate(next);
  };
  const store = useMutation({
    mutationFn: () =>
      taken(api.POST("/api/imports/{id}/dataset", { params: { path: { id } }, body: { name, unfold: unfolds } })),
    onSuccess: (dataset) => {
      queries.invalidateQueries({ queryKey: ["datasets"] });
      navigate({ to: "/data/$id", params: { id: dataset.id } });
    },
    onError: notifyProblem,
  });
  const leave = () => {
    api.DELETE("/api/imports/{id}", { params: { path: { id } } });
    navigate({ to: "/data" });
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
        <span className="truncate font-semibold text-ink">Bring in {preview.name}</span>
      </TopLine>
      <main className="flex min-h-0 flex-1 gap-6 overflow-y-auto px-6 pb-6 pt-3.5 max-lg:flex-col max-lg:px-3">
        <div className="min-w-0 flex-1">
          <h1 className="font-serif text-2xl font-semibold">Did we read it right?</h1>
          <p className="text-ink-soft">Nothing is stored yet.</p>
          <RawLines preview={preview} onHeader={(header_line) => change({ header_line, columns: [], fixes: [] })} />
          <SampleTable preview={preview} wish={wish} onChange={change} />
          {preview.wide && <Wide wide={preview.wide} on={unfold} onTurn={setUnfold} />}
          <form
            className="mt-4 flex flex-wrap items-center gap-2.5"
            onSubmit={(event) => {
              event.preventDefault();
              store.mutate();
            }}
          >
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
            <Button
              type="submit"
              look="primary"
              disabled={open > 0 || kept === 0 || name.trim() === "" || store.isPending || correct.isPending}
            >
              Bring in {counted(unfolds ? (preview.wide?.rows ?? 0) : preview.rows, "row", "rows")}
            </Button>
            <Button onClick={leave}>Leave it</Button>
            <span role="status" className="text-ink-soft">
              {correct.isPending && "Reading again …"}
              {!correct.isPending && open > 0 && `${counted(open, "value needs", "values need")} an answer first`}
              {kept === 0 && "Every column is left out"}
            </span>
          </form>
        </div>
        <ReadAsNotes preview={preview} wish={wish} onChange={change} />
      </main>
    </>
  );
}

type WideProps = { wide: NonNullable<Preview["wide"]>; on: boolean; onTurn: (on: boolean) => void };

/** The usual sheet of a gauge study is offered as a row a reading. */
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
          Each row is a {wide.part}, each column a trial of {names}: {counted(wide.trials, "trial", "trials")} each.
          Studies take operator, trial and reading as columns of their own.
        </span>
      </span>
    </label>
  );
}

/** "beam-flux_may.csv" as "Beam flux may". */
function datasetName(file: string): string {
  const words = file
    .replace(/\.(csv|tsv|txt|xlsx)$/i, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
