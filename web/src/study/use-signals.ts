import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useRef } from "react";
import { api, RequestError, unwrapResponse } from "../api/client";
import { type Dataset, type Study, signalsQuery, studyQuery } from "../api/queries";
import { useKeys } from "../lib/use-keys";
import { notifyProblem } from "../parts/notices";
import type { Said } from "./signal-card";

/** The signals of a study, which of them is chosen, and what is said about it. */
export function useSignals(study: Study, dataset: Dataset, chosen: string | undefined, enabled: boolean) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { data } = useQuery({ ...signalsQuery(study, dataset), enabled });
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const { queryKey } = studyQuery(study.id);

  const choose = (address: string | undefined) =>
    navigate({
      to: "/study/$id",
      params: { id: study.id },
      search: (before) => ({ ...before, signal: address }),
      replace: true,
    });
  const walk = (step: 1 | -1) => {
    const all = data?.signals ?? [];
    const here = all.findIndex((one) => one.address === chosen);
    const next = here < 0 ? (step > 0 ? 0 : all.length - 1) : (here + step + all.length) % all.length;
    const address = all[next]?.address;
    if (address) choose(address);
  };

  const send = (address: string, said: Said, revision: number) =>
    unwrapResponse(
      api.PUT("/api/studies/{id}/signals/{address}", {
        params: { path: { id: study.id, address } },
        body: { revision, ...said },
      }),
    );
  const say = (address: string, said: Said) => {
    const work = async () => {
      const revision = queries.getQueryData(queryKey)?.revision ?? study.revision;
      const saved = await send(address, said, revision).catch(async (error) => {
        const conflict = error instanceof RequestError && error.problem.status === 412;
        if (!conflict) throw error;
        return send(address, said, error.problem.current_revision ?? revision);
      });
      queries.setQueryData(queryKey, saved);
      for (const key of ["studies", "wall", "open-work"]) queries.invalidateQueries({ queryKey: [key] });
    };
    const done = queue.current.then(work);
    queue.current = done.catch(notifyProblem);
    // A field that learns of a refusal can send its text again.
    return done;
  };

  useKeys({ "[": () => walk(-1), "]": () => walk(1) });
  return { signals: enabled ? data : undefined, choose, walk, say };
}
