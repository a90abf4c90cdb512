import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createRootRoute, createRoute, createRouter, lazyRouteComponent, RouterProvider } from "@tanstack/react-router";
import { useEffect } from "react";
import { RequestError } from "./api/client";
import { listen } from "./api/live";
import type { FilterStep, TableView } from "./api/queries";
import { Shell } from "./parts/shell";
import { Problem } from "./parts/states";
import { Wall } from "./screens/wall/wall";

const queries = new QueryClient({ defaultOptions: { queries: { staleTime: 30_000, retry: 1 } } });

const NO_SUCH_PAGE = new RequestError({
  type: "/problems/no-such-page",
  title: "Not found",
  status: 404,
  detail: "There is no page at this address.",
  advice: "Check the address, or choose a place on the left.",
});

const root = createRootRoute({
  component: Shell,
  errorComponent: ({ error }) => <Problem thrown={error} />,
  notFoundComponent: () => <Problem thrown={NO_SUCH_PAGE} />,
});

const numbered = (params: { id: string }) => ({ id: Number(params.id) });
const written = ({ id }: { id: number }) => ({ id: String(id) });

const wall = createRoute({ getParentRoute: () => root, path: "/", component: Wall });

const display = createRoute({
  getParentRoute: () => root,
  path: "/wall",
  validateSearch: (search: Record<string, unknown>): { show?: string; seconds?: number } => ({
    show: typeof search.show === "string" ? search.show : undefined,
    seconds: whole(search.seconds),
  }),
  component: lazyRouteComponent(() => import("./screens/wall/display"), "WallDisplay"),
});

const data = createRoute({
  getParentRoute: () => root,
  path: "/data",
  component: lazyRouteComponent(() => import("./screens/data/datasets"), "Datasets"),
});

const whole = (value: unknown) => (Number.isInteger(value) ? (value as number) : undefined);

const bringIn = createRoute({
  getParentRoute: () => root,
  path: "/data/bring-in/$id",
  params: { parse: numbered, stringify: written },
  validateSearch: (search: Record<string, unknown>): { to?: number } => ({ to: whole(search.to) }),
  component: lazyRouteComponent(() => import("./screens/bring-in/bring-in"), "BringIn"),
});

/** A place in a dataset, and rows carried over: by their ids, or as those of a stretch of points of a study. */
type DataSearch = {
  row?: number;
  rows?: string;
  study?: number;
  first?: number;
  last?: number;
  column?: number;
  /** How many columns stay in sight while the others scroll. */
  hold?: number;
  /** What the table shows; all rows as they stand when absent. */
  view?: TableView;
};

/** A view as it stands in an address; what is none is left out, and what is wrong within one is said by the server. */
function viewOf(search: unknown): TableView | undefined {
  if (typeof search !== "object" || search === null) return undefined;
  const { only, order } = search as TableView;
  return Array.isArray(only) || Array.isArray(order) ? { only: only ?? [], order: order ?? [] } : undefined;
}

const dataset = createRoute({
  getParentRoute: () => root,
  path: "/data/$id",
  params: { parse: numbered, stringify: written },
  validateSearch: (search: Record<string, unknown>): DataSearch => ({
    row: whole(search.row),
    rows: search.rows === undefined ? undefined : String(search.rows),
    study: whole(search.study),
    first: whole(search.first),
    last: whole(search.last),
    column: whole(search.column),
    hold: whole(search.hold),
    view: viewOf(search.view),
  }),
  component: lazyRouteComponent(() => import("./screens/data/dataset"), "DatasetScreen"),
});

const form = createRoute({
  getParentRoute: () => root,
  path: "/data/$id/print",
  params: { parse: numbered, stringify: written },
  component: lazyRouteComponent(() => import("./screens/data/form"), "FormScreen"),
});

const gauges = createRoute({
  getParentRoute: () => root,
  path: "/gauges",
  component: lazyRouteComponent(() => import("./screens/gauges/gauges"), "Gauges"),
});

const gauge = createRoute({
  getParentRoute: () => root,
  path: "/gauges/$id",
  params: { parse: numbered, stringify: written },
  component: lazyRouteComponent(() => import("./screens/gauges/gauge"), "GaugeScreen"),
});

const plan = createRoute({
  getParentRoute: () => root,
  path: "/plan",
  validateSearch: (search: Record<string, unknown>): { gauge?: number } => ({ gauge: whole(search.gauge) }),
  component: lazyRouteComponent(() => import("./screens/plan/plan"), "PlanScreen"),
});

const floor = createRoute({
  getParentRoute: () => root,
  path: "/floor",
  component: lazyRouteComponent(() => import("./screens/floor/floor"), "Floor"),
});

const newPlan = createRoute({
  getParentRoute: () => root,
  path: "/floor/new",
  component: lazyRouteComponent(() => import("./screens/floor/new-plan"), "NewPlan"),
});

const collection = createRoute({
  getParentRoute: () => root,
  path: "/floor/$id",
  params: { parse: numbered, stringify: written },
  component: lazyRouteComponent(() => import("./screens/floor/desk"), "FloorDesk"),
});

const station = createRoute({
  getParentRoute: () => root,
  path: "/station/$id",
  params: { parse: numbered, stringify: written },
  component: lazyRouteComponent(() => import("./screens/station/station"), "StationScreen"),
});

const ask = createRoute({
  getParentRoute: () => root,
  path: "/ask",
  validateSearch: (search: Record<string, unknown>): { dataset?: number; only?: FilterStep[] } => ({
    dataset: whole(search.dataset),
    only: viewOf({ only: search.only })?.only,
  }),
  component: lazyRouteComponent(() => import("./screens/ask/ask"), "Ask"),
});

const study = createRoute({
  getParentRoute: () => root,
  path: "/study/$id",
  params: { parse: numbered, stringify: written },
  validateSearch: (search: Record<string, unknown>): { signal?: string; figure?: string } => ({
    signal: typeof search.signal === "string" ? search.signal : undefined,
    figure: typeof search.figure === "string" ? search.figure : undefined,
  }),
  component: lazyRouteComponent(() => import("./screens/study/study"), "StudyScreen"),
});

const print = createRoute({
  getParentRoute: () => root,
  path: "/study/$id/print",
  params: { parse: numbered, stringify: written },
  component: lazyRouteComponent(() => import("./screens/study/print"), "PrintScreen"),
});

const signals = createRoute({
  getParentRoute: () => root,
  path: "/signals",
  component: lazyRouteComponent(() => import("./screens/signals/signals"), "Signals"),
});

const router = createRouter({
  routeTree: root.addChildren([
    wall,
    display,
    data,
    bringIn,
    dataset,
    form,
    gauges,
    gauge,
    plan,
    floor,
    newPlan,
    collection,
    station,
    ask,
    study,
    print,
    signals,
  ]),
  defaultPreload: "intent",
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}

export function App() {
  useEffect(() => listen(queries), []);
  return (
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  );
}
