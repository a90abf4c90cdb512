import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, RequestError, unwrapResponse } from "../../api/client";
import { type Study, studyQuery } from "../../api/queries";
import { type Scope, useSerialMutation } from "../../api/saving";
import { newKey } from "../../lib/new-key";
import type { UndoDirection } from "../../parts/keys";
import { notifyProblem } from "../../parts/notices";
import {
  type Change,
  changeOf,
  type Draft,
  draftsOf,
  forgetDraft,
  isUntouched,
  keepDraft,
  type Sending,
} from "./drafts";

const send = ({ id, ...change }: Sending, on: Study) =>
  unwrapResponse(
    api.PATCH("/api/studies/{id}", {
      params: { path: { id: on.id } },
      body: {
        revision: on.revision,
        change_id: id,
        name: change.name,
        spec: change.spec?.(on.spec),
        shown: change.shown && { ...on.shown, ...change.shown },
        // Another role may take the place of the one that offered a choice.
        fit: true,
      },
      // A change made while the page is closing still arrives.
      keepalive: true,
    }),
  );

const readStudy = (id: number) => unwrapResponse(api.GET("/api/studies/{id}", { params: { path: { id } } }));

const isConflict = (error: unknown) => error instanceof RequestError && error.problem.status === 412;

/** Changes a study: saved in order, and applied again on top of what others changed meanwhile. */
export function useStudyChange(id: number) {
  const queries = useQueryClient();
  const { queryKey } = studyQuery(id);
  const scope: Scope = ["study", id];
  /** Changes that wait for the one that is being saved, and that one. */
  const waiting = useRef<Sending[]>([]);
  /** What was left here and cannot be saved without asking: the study has become another since. */
  const [left, setLeft] = useState<Draft[]>([]);
  const answers = {
    onSuccess: (study: Study | undefined) => study && queries.setQueryData(queryKey, study),
    onError: (error: Error) => {
      notifyProblem(error);
      queries.invalidateQueries({ queryKey });
    },
  };
  const known = () => queries.getQueryData(queryKey);
  const saving = useSerialMutation(
    scope,
    async (change: Sending) => {
      const current = known() ?? (await readStudy(id));
      try {
        return await send(change, current);
      } catch (error) {
        if (!isConflict(error)) throw error;
        return await send(change, await readStudy(id));
      } finally {
        waiting.current = waiting.current.filter((other) => other !== change);
      }
    },
    answers,
  );
  const turning = useSerialMutation(
    scope,
    async (way: UndoDirection) => {
      const { revision } = known() ?? (await readStudy(id));
      const request = { params: { path: { id } }, body: { revision } };
      return unwrapResponse(
        way === "undo" ? api.POST("/api/studies/{id}/undo", request) : api.POST("/api/studies/{id}/redo", request),
      );
    },
    answers,
  );
  const taking = useSerialMutation(
    scope,
    async (draft: Draft) => {
      // Another page of this study may have taken it meanwhile.
      if (!draftsOf(id).some(({ key }) => key === draft.key)) return undefined;
      const current = await readStudy(id);
      if (!isUntouched(draft, current)) {
        setLeft((others) => [...others.filter(({ key }) => key !== draft.key), draft]);
        return undefined;
      }
      forgetDraft(draft);
      return send({ ...changeOf(draft), id: newKey() }, current);
    },
    answers,
  );
  const change = (change: Change) => {
    const sending = { ...change, id: newKey() };
    waiting.current.push(sending);
    saving.mutate(sending);
  };
  /** Saves what was left after all, or gives it up. */
  const settle = (draft: Draft, wanted: boolean) => {
    forgetDraft(draft);
    setLeft((all) => all.filter((other) => other !== draft));
    if (wanted) change(changeOf(draft));
  };
  const take = taking.mutate;
  useEffect(() => {
    const going = () => {
      const study = queries.getQueryData(studyQuery(id).queryKey);
      if (study) keepDraft(study, waiting.current);
    };
    window.addEventListener("pagehide", going);
    for (const draft of draftsOf(id)) take(draft);
    return () => window.removeEventListener("pagehide", going);
  }, [queries, id, take]);
  return { change, turn: turning.mutate, left, settle };
}
