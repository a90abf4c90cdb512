import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { isProblem, problemOf, RequestError, type Schema } from "../../api/client";
import type { Dataset } from "../../api/queries";
import { metBy } from "../bring-in/target";

/** The key under which the preview of a waiting file is kept. */
export const previewKey = (id: number) => ["import", id] as const;

/** Sends files or pasted text to be looked at, and goes to the preview: of a dataset of its own, or of rows for one that is there. */
export function useBringIn(target?: Dataset) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const send = async (parts: { name: string; body: Blob }[]) => {
    setBusy(true);
    setError(null);
    try {
      let preview: Schema["Preview"] | undefined;
      for (const part of parts) preview = await upload(preview, part.name, part.body);
      if (!preview) return;
      if (target) preview = await metBy(preview, target);
      queries.setQueryData(previewKey(preview.id), preview);
      navigate({ to: "/data/bring-in/$id", params: { id: preview.id }, search: { to: target?.id } });
    } catch (thrown) {
      setError(thrown);
    } finally {
      setBusy(false);
    }
  };
  const byName = (a: File, b: File) => a.name.localeCompare(b.name, undefined, { numeric: true });
  return {
    busy,
    error,
    files: (files: File[]) => send([...files].sort(byName).map((file) => ({ name: file.name, body: file }))),
    text: (text: string) => send([{ name: "pasted cells", body: new Blob([text]) }]),
  };
}

/** The generated client speaks JSON; a file goes as it is, as the first or behind those that wait. */
async function upload(first: Schema["Preview"] | undefined, name: string, body: Blob): Promise<Schema["Preview"]> {
  const place = first ? `/api/imports/${first.id}/files` : "/api/imports";
  const response = await fetch(`${place}?name=${encodeURIComponent(name)}`, {
    method: "POST",
    body,
    headers: { "content-type": "application/octet-stream" },
  });
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer as Schema["Preview"];
  throw isProblem(answer) ? new RequestError(answer) : new RequestError(problemOf(new Error(response.statusText)));
}
