import { type MutationOptions, replaceEqualDeep, useIsMutating, useMutation } from "@tanstack/react-query";

/** What changes are made of: changes of one thing wait for each other, those of different things do not. */
export type Scope = readonly ["dataset" | "study" | "gauge" | "plan" | "wall", number?];

/**
 * A change that is sent when those of its scope that were begun before it are stored, so that it is made on top of what they left.
 * What others show follows from the event that the server tells; see `live.ts`.
 */
export const useSerialMutation = <In, Out>(
  scope: Scope,
  save: (input: In) => Promise<Out>,
  options: Pick<MutationOptions<Out, Error, In>, "onSuccess" | "onError"> = {},
) =>
  useMutation<Out, Error, In>({
    ...options,
    mutationFn: save,
    mutationKey: scope,
    scope: { id: scope.join(" ") },
    // A browser that believes itself to be offline may be wrong.
    networkMode: "always",
  });

/** Whether changes of a scope are still on their way. */
export const useIsSaving = (scope: Scope): boolean => useIsMutating({ mutationKey: scope }) > 0;

/** The newer of what is known and what came: an answer that was overtaken on its way takes nothing back. */
export function newest(known: unknown, came: unknown): unknown {
  const revision = (thing: unknown) => (thing as { revision?: number } | undefined)?.revision ?? 0;
  return revision(known) > revision(came) ? known : replaceEqualDeep(known, came);
}
