import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, RequestError, unwrapResponse } from "../../api/client";
import { type Study, studyQuery } from "../../api/queries";
import type { UndoDirection } from "../../parts/keys";
import { notifyProblem } from "../../parts/notices";
import { type Change, leave, left } from "./left-behind";

/** Changes a study: shown at once, saved in order, and applied again on top of what others changed meanwhile. */
export function useStudyChange(id: number) {
  const queries = useQueryClient();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  /** Changes that wait for the one that is being saved, and that one. */
  const waiting = useRef<Change[]>([]);
  const { queryKey } = studyQuery(id);

  const send = async (change: Change, on: Study) =>
    unwrapResponse(
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
      return send(change, await unwrapResponse(api.GET("/api/studies/{id}", { params: { path: { id } } })));
    });
    queries.setQueryData(queryKey, saved);
    queries.invalidateQueries({ queryKey: ["studies"] });
    queries.invalidateQueries({ queryKey: ["wall"] });
  };

  const turn = async (way: UndoDirection) => {
    const current = queries.getQueryData(queryKey);
    if (!current) return;
    const request = { params: { path: { id } }, body: { revision: current.revision } };
    const turned =
      way === "undo" ? api.POST("/api/studies/{id}/undo", request) : api.POST("/api/studies/{id}/redo", request);
    queries.setQueryData(queryKey, await unwrapResponse(turned));
  };

  const inOrder = (work: () => Promise<void>) => {
    queue.current = queue.current.then(work).catch((error) => {
      notifyProblem(error);
      queries.invalidateQueries({ queryKey });
    });
  };
  const change = (change: Change) => {
    waiting.current.push(change);
    inOrder(() => save(change).finally(() => waiting.current.shift()));
  };
  // What waits while the page goes is kept by the browser, and saved when the study is opened again.
  const keep = useRef({ leave: () => {}, change });
  keep.current = {
    leave: () => {
      const current = queries.getQueryData(queryKey);
      if (current) leave(current, waiting.current);
    },
    change,
  };
  useEffect(() => {
    const going = () => keep.current.leave();
    window.addEventListener("pagehide", going);
    const current = queries.getQueryData(studyQuery(id).queryKey);
    const behind = current && left(current);
    if (behind) keep.current.change(behind);
    return () => window.removeEventListener("pagehide", going);
  }, [queries, id]);
  return { change, turn: (way: UndoDirection) => inOrder(() => turn(way)) };
}
