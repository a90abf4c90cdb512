import { useQuery } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import { api, isFinal, unwrapResponse } from "../../api/client";
import { type Dataset, datasetQuery, placesQuery, useDatasetChange, useSummary } from "../../api/queries";
import { useIsSaving } from "../../api/saving";
import { counted, moment } from "../../lib/format";
import { stretches } from "../../lib/row-ranges";
import { Button } from "../../parts/button";
import { ConfirmButton } from "../../parts/confirm-button";
import { EditableTitle } from "../../parts/editable-title";
import { type UndoDirection, useTurnKeys } from "../../parts/keys";
import { notify, notifyProblem } from "../../parts/notices";
import { Loading, Problem } from "../../parts/states";
import { Then, TopLine } from "../../parts/top-line";
import { AddRows, DropRows } from "./add-rows";
import { ColumnPanel } from "./column-panel";
import { ColumnsButton } from "./columns-button";
import { FindBar } from "./find-bar";
import { FollowLine } from "./follow-line";
import { Grid } from "./grid";
import { HistoryButton } from "./history-button";
import { NewColumn } from "./new-column";
import { SendOut } from "./send-out";
import { SheetBar } from "./sheet-bar";
import { isPlain, shownOf } from "./shown";
import { useCount } from "./use-rows";
import { ViewBar } from "./view-bar";

const route = getRouteApi("/data/$id");

/** One dataset: its table, and the properties of the chosen column. */
export function DatasetScreen() {
  const { id } = route.useParams();
  const { data, error } = useQuery(datasetQuery(id));
  if (isFinal(error, data)) {
    return <Problem thrown={error} to="/data" />;
  }
  return data ? <Table key={id} dataset={data} /> : <Loading what="the dataset" />;
}

function Table({ dataset }: { dataset: Dataset }) {
  const search = route.useSearch();
  const navigate = useNavigate();
  const summary = useSummary(dataset);
  const isSaving = useIsSaving(["dataset", dataset.id]);
  const turn = useDatasetChange(dataset, (way: UndoDirection, newest) => {
    const request = { params: { path: { id: dataset.id } }, body: { revision: newest.revision } };
    return unwrapResponse(
      way === "undo" ? api.POST("/api/datasets/{id}/undo", request) : api.POST("/api/datasets/{id}/redo", request),
    );
  });
  const rename = useDatasetChange(dataset, (name: string, newest) =>
    unwrapResponse(
      api.PATCH("/api/datasets/{id}", {
        params: { path: { id: dataset.id } },
        body: { revision: newest.revision, name },
      }),
    ),
  );
  const remove = () =>
    unwrapResponse(api.DELETE("/api/datasets/{id}", { params: { path: { id: dataset.id } } }))
      .then(() => navigate({ to: "/data" }))
      .catch(notifyProblem);
  const turnNow = (way: UndoDirection) =>
    turn.mutate(way, {
      onSuccess: () => notify(way === "undo" ? "The last change is undone." : "What was undone last is done again."),
      onError: notifyProblem,
    });
  useTurnKeys(turnNow);

  const plan = dataset.plan ?? undefined;
  const measure = dataset.columns.findIndex((column) => column.id === plan?.column_id);
  const [hidden, setHidden] = useState(false);
  const [finding, setFinding] = useState(false);
  const firstLimited =
    dataset.columns[measure] ?? dataset.columns.find((column) => column.lsl != null || column.usl != null);
  const view = search.view ?? {};
  const shown = useMemo(() => shownOf(dataset, search.view ?? {}), [dataset, search.view]);
  const { count, error } = useCount(shown);
  const chosen = [dataset.columns.find((column) => column.id === search.column), firstLimited, ...shown.columns].find(
    (column) => column && !column.hidden,
  );
  const go = (part: Partial<typeof search>) =>
    navigate({ to: "/data/$id", params: { id: dataset.id }, search: { ...search, ...part }, replace: true });
  const { rows: ids, study, first, last } = search;
  const places = useQuery(placesQuery(dataset, { ids, study, first, last })).data;
  const carried = useMemo(() => stretches(places ?? []), [places]);
  const choose = (column: number) => {
    if (column !== search.column) go({ column });
  };
  return (
    <>
      <TopLine>
        <Link to="/data" className="hover:text-moss">
          Data
        </Link>
        <Then />
        <EditableTitle
          what="dataset"
          name={dataset.name}
          onRename={(name) => rename.mutate(name, { onError: notifyProblem })}
        />
        <span className="whitespace-nowrap text-[13px]">{isSaving ? "saving" : "all changes kept"}</span>
        <span className="flex-1" />
        <ConfirmButton onConfirm={remove}>Delete dataset</ConfirmButton>
      </TopLine>
      <DropRows dataset={dataset}>
        {(bring) => (
          <>
            <div className="flex flex-wrap items-center gap-2.5">
              <h1 className="flex-1 font-serif text-2xl font-semibold">
                {counted(dataset.row_count, "row", "rows")}, {counted(dataset.columns.length, "column", "columns")}
              </h1>
              {carried.count > 0 && (
                <p className="flex items-center gap-3 rounded-full bg-tint px-3.5 py-1 text-[13px]">
                  {counted(carried.count, "row", "rows")} carried over from a study
                  <Button
                    look="quiet"
                    onClick={() =>
                      navigate({
                        to: "/data/$id",
                        params: { id: dataset.id },
                        search: { column: search.column, view: search.view },
                      })
                    }
                  >
                    Let go
                  </Button>
                </p>
              )}
              <Button onClick={() => turnNow("undo")} disabled={turn.isPending}>
                Undo
              </Button>
              <Button onClick={() => turnNow("redo")} disabled={turn.isPending}>
                Redo
              </Button>
              <HistoryButton dataset={dataset} />
              <Button aria-pressed={finding} onClick={() => setFinding(!finding)}>
                Find
              </Button>
              <ColumnsButton shown={shown} />
              <NewColumn dataset={dataset} onAdded={(column) => go({ column })} />
              {!dataset.follows && <AddRows bring={bring} />}
              <SendOut shown={shown}>
                <Button>Send out</Button>
              </SendOut>
              <Button
                look="primary"
                onClick={() =>
                  navigate({
                    to: "/ask",
                    search: { dataset: dataset.id, only: view.only?.length ? view.only : undefined },
                  })
                }
              >
                {view.only?.length ? "Ask of these rows" : "Ask of this data"}
              </Button>
            </div>
            <FollowLine dataset={dataset} />
            {plan && (
              <SheetBar dataset={dataset} summary={summary.data?.[measure]} hidden={hidden} onHide={setHidden} />
            )}
            {finding && (
              <FindBar
                dataset={dataset}
                column={chosen}
                onGo={({ row, column }) => go({ row, column, view: undefined })}
                onClose={() => setFinding(false)}
              />
            )}
            <ViewBar
              dataset={dataset}
              view={view}
              column={chosen}
              count={count}
              error={error}
              onChange={(view) => go({ view: isPlain(view) ? undefined : view, row: undefined })}
            />
            <div className="flex min-h-0 flex-1 gap-[22px] max-lg:flex-none max-lg:flex-col">
              <Grid
                key={`${search.row} ${carried.first} ${JSON.stringify(search.view)}`}
                shown={shown}
                rows={count ?? 0}
                summaries={shown.at.map((place) => summary.data?.[place])}
                chosen={chosen?.id ?? 0}
                startRow={search.row ?? carried.first}
                isCarried={carried.has}
                held={search.hold ?? 0}
                fill={plan && { column: plan.column_id, hidden }}
                onChoose={choose}
                onFind={() => setFinding(true)}
              />
              {chosen && (
                <ColumnPanel
                  key={chosen.id}
                  dataset={dataset}
                  column={chosen}
                  summary={summary.data?.[dataset.columns.indexOf(chosen)]}
                  onShow={(step) => go({ view: { only: [step], order: [] }, row: undefined })}
                  held={shown.columns.indexOf(chosen) < (search.hold ?? 0)}
                  onHold={(holds) => go({ hold: holds ? shown.columns.indexOf(chosen) + 1 : undefined })}
                />
              )}
            </div>
            <p className="text-[13px] text-ink-soft">
              from {dataset.source}, {moment(dataset.created_at)}
            </p>
          </>
        )}
      </DropRows>
    </>
  );
}
