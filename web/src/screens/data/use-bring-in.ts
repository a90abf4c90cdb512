import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { type Schema, sendFile } from "../../api/client";
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

/** A file as the first, or behind those that wait. */
const upload = (first: Schema["Preview"] | undefined, name: string, body: Blob) =>
  sendFile<Schema["Preview"]>(first ? `/api/imports/${first.id}/files` : "/api/imports", name, body);
