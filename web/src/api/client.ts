import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schema = components["schemas"];
export type Problem = Schema["HttpProblem"];

/** What a failed request throws: the problem as the server tells it, or that the server cannot be reached. */
export class RequestError extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

export const api = createClient<paths>({ baseUrl: "" });

const unreachable: Problem = {
  type: "/problems/unreachable",
  title: "The server does not answer",
  status: 0,
  detail: "The server does not answer.",
  advice: "Check that Acorn Dial is running; the page goes on by itself once it is.",
};

/** The data of a response; throws a RequestError otherwise. */
export async function unwrapResponse<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await request.catch(() => {
    throw new RequestError(unreachable);
  });
  if (response.ok) return data as T;
  throw new RequestError(
    isProblem(error) ? error : { ...unreachable, status: response.status, detail: response.statusText },
  );
}

/** Sends a file as it is; the generated client speaks JSON. */
export async function sendFile<T>(place: string, name: string, body: Blob): Promise<T> {
  const headers = { "content-type": "application/octet-stream" };
  const response = await fetch(`${place}?name=${encodeURIComponent(name)}`, { method: "POST", body, headers });
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer as T;
  throw isProblem(answer) ? new RequestError(answer) : new RequestError(problemOf(new Error(response.statusText)));
}

export function isProblem(value: unknown): value is Problem {
  return typeof value === "object" && value !== null && "detail" in value && "advice" in value;
}

/** The problem behind whatever was thrown. */
export function problemOf(thrown: unknown): Problem {
  if (thrown instanceof RequestError) return thrown.problem;
  return { ...unreachable, title: "Something went wrong", detail: String(thrown), advice: "Load the page again." };
}

/** Whether an error leaves nothing to show. A server that is away for a while does: what was read and typed stays. */
export function isFinal(thrown: unknown, data: unknown): boolean {
  return thrown != null && (data === undefined || problemOf(thrown).status !== 0);
}
