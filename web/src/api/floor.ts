import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Schema, unwrapResponse } from "./client";

/** As the service sends it: with everything that may be left out when it is sent there. */
type Whole<T> = T extends (infer One)[]
  ? Whole<One>[]
  : T extends object
    ? { [Name in keyof T]-?: Whole<Exclude<T[Name], undefined>> }
    : T;

export type Collection = Whole<Schema["Collection"]>;
export type Plan = Collection["plan"];
export type Version = Whole<Schema["CollectionVersion"]>;
export type Station = Schema["Station"];
export type Entry = Schema["Entry"];
export type StoredEntry = Schema["StoredEntry"];
export type Standing = Whole<Schema["Standing"]>;
export type ChoiceList = Schema["ChoiceList"];

/** How every plan stands; what is due changes with the minutes. */
export const floorQuery = queryOptions({
  queryKey: ["floor"],
  queryFn: async () => (await unwrapResponse(api.GET("/api/floor"))) as Standing[],
  refetchInterval: 30_000,
});

export const planQuery = (id: number) =>
  queryOptions({
    queryKey: ["plan", id],
    queryFn: async () =>
      (await unwrapResponse(api.GET("/api/floor/plans/{id}", { params: { path: { id } } }))) as Collection,
  });

export const entriesQuery = (id: number) =>
  queryOptions({
    queryKey: ["entries", id],
    queryFn: () => unwrapResponse(api.GET("/api/floor/plans/{id}/entries", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
  });

export const versionsQuery = (plan: Collection) =>
  queryOptions({
    queryKey: ["plan-versions", plan.id, plan.version],
    queryFn: async () => {
      const path = { id: plan.id };
      return (await unwrapResponse(api.GET("/api/floor/plans/{id}/versions", { params: { path } }))) as Version[];
    },
  });

export const listsQuery = queryOptions({
  queryKey: ["lists"],
  queryFn: () => unwrapResponse(api.GET("/api/floor/lists")),
});
