import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, unwrapResponse } from "../../api/client";
import { type Dataset, datasetsQuery, useDatasetChange } from "../../api/queries";
import { Button } from "../../parts/button";
import { notify, notifyProblem } from "../../parts/notices";

/** Over a table that follows another: which, whether it still does, and the way to let it stand by itself. */
export function FollowLine({ dataset }: { dataset: Dataset }) {
  const follows = dataset.follows ?? null;
  const datasets = useQuery({ ...datasetsQuery, enabled: follows !== null }).data ?? [];
  const unlink = useDatasetChange(dataset, (_: undefined, newest) =>
    unwrapResponse(
      api.DELETE("/api/datasets/{id}/link", {
        params: { path: { id: dataset.id } },
        body: { revision: newest.revision },
      }),
    ),
  );
  if (!follows) return null;
  const made = [follows.from, follows.with].flatMap((id) => datasets.filter((other) => other.id === id));
  return (
    <section
      aria-label="What it follows"
      className="flex flex-wrap items-center gap-3 rounded-xl border border-hairline bg-sheet px-4 py-2"
    >
      <p className="min-w-40 flex-1" role={follows.problem ? "alert" : undefined}>
        {follows.problem ? (
          <>
            <b className="text-ochre">It does not follow any more:</b> {follows.problem}. It holds what was made last.
          </>
        ) : (
          <>
            It follows{" "}
            {made.map((other, place) => (
              <span key={other.id}>
                {place > 0 && " and "}
                <Link to="/data/$id" params={{ id: other.id }} className="font-semibold text-moss hover:underline">
                  {other.name}
                </Link>
              </span>
            ))}
            : made anew whenever that changes, so that nothing is typed here.
          </>
        )}
      </p>
      <Button
        onClick={() =>
          unlink.mutate(undefined, {
            onSuccess: () => notify(`${dataset.name} stands by itself now, and can be typed into.`),
            onError: notifyProblem,
          })
        }
      >
        Let it stand by itself
      </Button>
    </section>
  );
}
