import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, RequestError, taken } from "../../api/client";
import { type Study, studyQuery } from "../../api/queries";
import type { Turn } from "../../parts/keys";
import { notifyProblem } from "../../parts/notices";

type Change = {
  name?: string;
  spec?: (spec: Study["spec"]) => Study["spec"];
  /** Marks of the figure that come or go. */
  shown?: Study["shown"];
};

/** Changes a study: shown at once, saved in order, and applied again on top of what others changed meanwhile. */
export function useStudyChange(id: number) {
  const queries = useQueryClient();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const { queryKey } = studyQuery(id);

  const send = async (change: Change, on: Study) =>
    taken(
      api.PATCH("/api/studies/{id}", {
        params: { path: { id } },
        body: {
          revision: on.revision,
          name: change.name,
          spec: change.spec?.(on.spec),
          shown: change.shown && { ...on.shown, ...change.shown },
        },
        // A change made while the page is closing still arrives.
        keepalive: true,
      }),
    );

  const save = async (change: Change) => {
    const current = queries.getQueryData(queryKey);
    if (!current) return;
    const saved = await send(change, current).catch(async (error) => {
      const conflict = error instanceof RequestError && error.problem.status === 412;
      if (!conflict) throw error;
      return send(change, await taken(api.GET("/api/studies/{id}", { params: { path: { id } } })));
    });
    queries.setQueryData(queryKey, saved);
    queries.invalidateQueries({ queryKey: ["studies"] });
    queries.invalidateQueries({ queryKey: ["wall"] });
  };

  const turn = async (way: Turn) => {
    const current = queries.getQueryData(queryKey);
    if (!current) return;
    const request = { params: { path: { id } }, body: { revision: current.revision } };
    const turned =
      way === "undo" ? api.POST("/api/studies/{id}/undo", request) : api.POST("/api/studies/{id}/redo", request);
    queries.setQueryData(queryKey, await taken(turned));
  };

  const inOrder = (work: () => Promise<void>) => {
    queue.current = queue.current.then(work).catch((error) => {
      notifyProblem(error);
      queries.invalidateQueries({ queryKey });
    });
  };
  return { change: (change: Change) => inOrder(() => save(change)), turn: (way: Turn) => inOrder(() => turn(way)) };
}
