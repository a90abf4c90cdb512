import { api, type Schema, unwrapResponse } from "../api/client";
import type { Dataset, Spec } from "../api/queries";

/** A statement filled as the method itself proposes for a dataset. */
export async function halfFilled(method: Schema["MethodCard"], dataset: Dataset): Promise<Spec> {
  const advice = await unwrapResponse(
    api.POST("/api/methods/{method}/advice", {
      params: { path: { method: method.method } },
      body: { dataset: dataset.id },
    }),
  );
  const { roles = {}, options = {} } = advice.proposal ?? {};
  return { method: method.method, roles, options, data: { dataset: dataset.id } };
}
