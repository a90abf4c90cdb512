import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { api, RequestError, unwrapResponse } from "../api/client";
import { type Dataset, type Study, signalsQuery, studyQuery } from "../api/queries";
import { useSerialMutation } from "../api/saving";
import { useKeys } from "../lib/use-keys";
import { notifyProblem } from "../parts/notices";
import type { Said } from "./signal-card";

/** The signals of a study, which of them is chosen, and what is said about it. */
export function useSignals(study: Study, dataset: Dataset, chosen: string | undefined, enabled: boolean) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { data } = useQuery({ ...signalsQuery(study, dataset), enabled });
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
  const saying = useSerialMutation(
    ["study", study.id],
    async ({ address, said }: { address: string; said: Said }) => {
      const revision = queries.getQueryData(queryKey)?.revision ?? study.revision;
      return send(address, said, revision).catch(async (error) => {
        const conflict = error instanceof RequestError && error.problem.status === 412;
        if (!conflict) throw error;
        return send(address, said, error.problem.current_revision ?? revision);
      });
    },
    { onSuccess: (saved) => queries.setQueryData(queryKey, saved), onError: notifyProblem },
  );
  // A field that learns of a refusal can send its text again.
  const say = (address: string, said: Said) => saying.mutateAsync({ address, said });

  useKeys({ "[": () => walk(-1), "]": () => walk(1) });
  return { signals: enabled ? data : undefined, choose, walk, say };
}
