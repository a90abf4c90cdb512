import { keepPreviousData, queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrapResponse } from "./client";
import { newest, useSerialMutation } from "./saving";

export type Dataset = Schema["Dataset"];
export type Column = Schema["StoredColumn"];
export type Study = Schema["StatedStudy"];
export type Spec = Schema["Spec"];
export type FilterStep = Schema["FilterStep"];
export type TableView = Schema["TableView"];
export type Gauge = Schema["KnownGauge"];

/** What a study about typed numbers is about: no column and no row. */
export const NO_DATA: Dataset = {
  id: 0,
  name: "",
  source: "",
  created_at: 0,
  revision: 0,
  row_count: 0,
  owned: false,
  columns: [],
};

export const methodsQuery = queryOptions({
  queryKey: ["methods"],
  queryFn: () => unwrapResponse(api.GET("/api/methods")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Every term with its meaning; it changes with the version only. */
export const glossaryQuery = queryOptions({
  queryKey: ["glossary"],
  queryFn: () => unwrapResponse(api.GET("/api/glossary")),
  staleTime: Number.POSITIVE_INFINITY,
});
/** How soon a last answer that is being worked out anew is looked at again, in milliseconds. */
const AGAIN_MS = 500;
const again = (stale: boolean | undefined) => (stale ? AGAIN_MS : false);

export const wallQuery = queryOptions({
  queryKey: ["wall"],
  queryFn: () => unwrapResponse(api.GET("/api/wall")),
  refetchInterval: ({ state }) => again(state.data?.some(({ stale }) => stale)),
});
export const datasetsQuery = queryOptions({
  queryKey: ["datasets"],
  queryFn: () => unwrapResponse(api.GET("/api/datasets")),
});
export const studiesQuery = queryOptions({
  queryKey: ["studies"],
  queryFn: () => unwrapResponse(api.GET("/api/studies")),
});

export const gaugesQuery = queryOptions({
  queryKey: ["gauges"],
  queryFn: () => unwrapResponse(api.GET("/api/gauges")),
});

export const gaugeQuery = (id: number) =>
  queryOptions({
    queryKey: ["gauge", id],
    queryFn: () => unwrapResponse(api.GET("/api/gauges/{id}", { params: { path: { id } } })),
    structuralSharing: newest,
  });

/** Changes a gauge, or enters one, through one of its requests. */
export function useGaugeChange<T>(id: number | undefined, change: (input: T) => Promise<Gauge>) {
  const queries = useQueryClient();
  return useSerialMutation(["gauge", id], change, {
    onSuccess: (gauge) => queries.setQueryData(gaugeQuery(gauge.id).queryKey, gauge),
    onError: () => queries.invalidateQueries({ queryKey: ["gauge"] }),
  });
}

export const datasetQuery = (id: number) =>
  queryOptions({
    queryKey: ["dataset", id],
    queryFn: () => unwrapResponse(api.GET("/api/datasets/{id}", { params: { path: { id } } })),
    structuralSharing: newest,
  });

export const studyQuery = (id: number) =>
  queryOptions({
    queryKey: ["study", id],
    queryFn: () => unwrapResponse(api.GET("/api/studies/{id}", { params: { path: { id } } })),
    structuralSharing: newest,
  });

/** How a specification that is not saved reads. */
export const statementQuery = (spec: Spec, dataset: Dataset) =>
  queryOptions({
    queryKey: ["statement", spec, dataset.revision],
    queryFn: () => unwrapResponse(api.POST("/api/statements", { body: spec })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What stands in each column; the revision is part of the key, so that an old summary is never shown for new data. */
export function useSummary(dataset: Dataset | undefined) {
  return useQuery({
    queryKey: ["summary", dataset?.id, dataset?.revision],
    queryFn: ({ signal }) =>
      unwrapResponse(api.GET("/api/datasets/{id}/summary", { params: { path: { id: dataset?.id ?? 0 } }, signal })),
    enabled: dataset !== undefined,
    placeholderData: keepPreviousData,
  });
}

/** Rows carried over in an address: by their ids, or as those of a stretch of points of a study. */
export type CarriedRows = { ids?: string; study?: number; first?: number; last?: number };

/** Where carried rows stand by now. */
export const placesQuery = (dataset: Dataset, rows: CarriedRows) =>
  queryOptions({
    queryKey: ["places", dataset.id, dataset.revision, rows],
    queryFn: () =>
      unwrapResponse(api.GET("/api/datasets/{id}/places", { params: { path: { id: dataset.id }, query: rows } })),
    enabled: rows.ids !== undefined || rows.study !== undefined,
    placeholderData: keepPreviousData,
  });

/** The views that are kept of a table. */
export const viewsQuery = (dataset: Dataset) =>
  queryOptions({
    queryKey: ["views", dataset.id, dataset.columns.map(({ name }) => name)],
    queryFn: () => unwrapResponse(api.GET("/api/datasets/{id}/views", { params: { path: { id: dataset.id } } })),
  });

/** What makes one doubt the columns of a table, and its rows. */
export const healthQuery = (dataset: Dataset) =>
  queryOptions({
    queryKey: ["health", dataset.id, dataset.revision],
    queryFn: ({ signal }) =>
      unwrapResponse(api.GET("/api/datasets/{id}/health", { params: { path: { id: dataset.id } }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });

/** The functions of formulas over columns; they change with the version only. */
export const tableFunctionsQuery = queryOptions({
  queryKey: ["table-functions"],
  queryFn: () => unwrapResponse(api.GET("/api/formulas/functions")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The different labels of a column, in order of first appearance. */
export const labelsQuery = (dataset: Dataset, column: Column | undefined) =>
  queryOptions({
    queryKey: ["labels", dataset.id, column?.id, column?.revision],
    queryFn: () =>
      unwrapResponse(
        api.GET("/api/datasets/{id}/columns/{column_id}/labels", {
          params: { path: { id: dataset.id, column_id: column?.id ?? 0 } },
        }),
      ),
    enabled: column !== undefined,
  });

export const historyQuery = (dataset: Dataset) =>
  queryOptions({
    queryKey: ["history", dataset.id, dataset.revision],
    queryFn: () => unwrapResponse(api.GET("/api/datasets/{id}/history", { params: { path: { id: dataset.id } } })),
    enabled: dataset.id > 0,
    placeholderData: keepPreviousData,
  });

export const studyHistoryQuery = (study: Study) =>
  queryOptions({
    queryKey: ["study-history", study.id, study.revision],
    queryFn: () => unwrapResponse(api.GET("/api/studies/{id}/history", { params: { path: { id: study.id } } })),
    placeholderData: keepPreviousData,
  });

/** The signals of a study with their causes. */
export const signalsQuery = (study: Study, dataset: Dataset) =>
  queryOptions({
    queryKey: ["signals", study.id, study.revision, dataset.revision],
    queryFn: ({ signal }) =>
      unwrapResponse(api.GET("/api/studies/{id}/signals", { params: { path: { id: study.id } }, signal })),
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Signals without a cause and actions not done, over all studies. */
export const openWorkQuery = queryOptions({
  queryKey: ["open-work"],
  queryFn: () => unwrapResponse(api.GET("/api/signals")),
  refetchInterval: ({ state }) => again(state.data?.stale),
});

export type View = { first?: number; last?: number; points?: number; fresh?: boolean };

/** The revisions of the other datasets from which pieces of a statement are taken. */
export function useBeside(spec: Spec): number[] {
  const pieces = Object.values(spec.options ?? {}).flatMap((option) => (Array.isArray(option) ? option : []));
  const ids = new Set(pieces.map((piece: { dataset?: unknown } | null) => piece?.dataset));
  const datasets = useQuery({ ...datasetsQuery, enabled: pieces.some((piece) => piece?.dataset != null) }).data ?? [];
  return datasets.filter(({ id }) => ids.has(id)).flatMap(({ id, revision }) => [id, revision]);
}

/** The answer of a study. A newer statement or revision drops the older request, and the server stops computing it. */
export const outcomeQuery = (
  study: Study | undefined,
  dataset: Dataset | undefined,
  view: View,
  beside: number[] = [],
) =>
  queryOptions({
    queryKey: ["outcome", study?.id, study?.revision, dataset?.revision, beside, view],
    queryFn: ({ signal }) =>
      unwrapResponse(
        api.GET("/api/studies/{id}/outcome", { params: { path: { id: study?.id ?? 0 }, query: view }, signal }),
      ),
    enabled: study !== undefined && dataset !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    refetchInterval: ({ state }) => again(state.data?.stale),
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Computations that have gone on for a while; looked at every second while there are some. */
export const jobsQuery = queryOptions({
  queryKey: ["jobs"],
  queryFn: () => unwrapResponse(api.GET("/api/jobs")),
  refetchInterval: (query) => (query.state.data?.length ? 1000 : false),
});

/** How far an answer is while it is worked out, looked at twice a second. */
export const progressQuery = (study: number) =>
  queryOptions({
    queryKey: ["progress", study],
    queryFn: () => unwrapResponse(api.GET("/api/studies/{id}/progress", { params: { path: { id: study } } })),
    refetchInterval: 500,
    gcTime: 0,
    retry: false,
  });

/** Saves a new study and returns it. */
export function useCreateStudy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (spec: Spec) => unwrapResponse(api.POST("/api/studies", { body: { spec } })),
    onSuccess: (study) => queries.setQueryData(studyQuery(study.id).queryKey, study),
  });
}

/**
 * Changes a dataset through one of its requests. `newest` is what the changes before it have made of the dataset; one that names rows
 * by their place sends the revision at which they were seen.
 */
export function useDatasetChange<T>(dataset: Dataset, change: (input: T, newest: Dataset) => Promise<Dataset>) {
  const queries = useQueryClient();
  const { queryKey } = datasetQuery(dataset.id);
  return useSerialMutation<T, Dataset>(
    ["dataset", dataset.id],
    (input) => change(input, queries.getQueryData(queryKey) ?? dataset),
    {
      onSuccess: (stored) => queries.setQueryData(queryKey, stored),
      // On a conflict the page shows the new state; what was typed stays in its field.
      onError: () => queries.invalidateQueries({ queryKey }),
    },
  );
}
