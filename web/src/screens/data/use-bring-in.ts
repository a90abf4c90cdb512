import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { isProblem, problemOf, RequestError, type Schema } from "../../api/client";

/** The key under which the preview of a waiting file is kept. */
export const previewKey = (id: number) => ["import", id] as const;

/** Sends a file or pasted text to be looked at, and goes to its preview. */
export function useBringIn() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const send = async (name: string, body: Blob) => {
    setBusy(true);
    setError(null);
    try {
      const preview = await upload(name, body);
      queries.setQueryData(previewKey(preview.id), preview);
      navigate({ to: "/data/bring-in/$id", params: { id: preview.id } });
    } catch (thrown) {
      setError(thrown);
    } finally {
      setBusy(false);
    }
  };
  return {
    busy,
    error,
    file: (file: File) => send(file.name, file),
    text: (text: string) => send("pasted cells", new Blob([text])),
  };
}

/** The generated client speaks JSON; a file goes as it is. */
async function upload(name: string, body: Blob): Promise<Schema["Preview"]> {
  const response = await fetch(`/api/imports?name=${encodeURIComponent(name)}`, {
    method: "POST",
    body,
    headers: { "content-type": "application/octet-stream" },
  });
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer as Schema["Preview"];
  throw isProblem(answer) ? new RequestError(answer) : new RequestError(problemOf(new Error(response.statusText)));
}
