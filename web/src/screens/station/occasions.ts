import { api, unwrapResponse } from "../../api/client";
import type { StoredEntry } from "../../api/floor";
import { counted, fixed } from "../../lib/format";
import { IN_SIGHT } from "./chart";
import type { Occasion } from "./react";

/** An entry with values beyond specification asks why. */
export const beyondOf = (entry: StoredEntry): Occasion => ({
  on: "beyond-specification",
  sentence: entry.beyond
    .map(
      ({ column, piece, value, limit }) =>
        `Piece ${piece}: ${column} ${value} lies ${value > limit ? "above USL" : "below LSL"} ${fixedLike(limit, value)}.`,
    )
    .join(" "),
  say: (reaction) =>
    unwrapResponse(
      api.POST("/api/floor/entries/{id}/reaction", { params: { path: { id: entry.id } }, body: reaction }),
    ),
});

/** A limit with as many decimals as the value beside it. */
const fixedLike = (limit: number, value: number) =>
  fixed(limit, Math.max(decimalsOf(limit), Math.min(6, decimalsOf(value))));
export const decimalsOf = (value: number) => String(value).split(".")[1]?.length ?? 0;

/** Signals at the newest points of the charts that watch, about which nothing was said, with the causes that there are. */
export async function newestSignals(studies: number[]) {
  const found = (await Promise.all(studies.map(ofChart))).filter((one) => one !== null);
  return { causes: found.flatMap(({ causes }) => causes), occasions: found.flatMap(({ occasions }) => occasions) };
}

async function ofChart(study: number) {
  const path = { id: study };
  const [outcome, found] = await Promise.all([
    unwrapResponse(
      api.GET("/api/studies/{id}/outcome", { params: { path, query: { points: IN_SIGHT, fresh: true } } }),
    ),
    unwrapResponse(api.GET("/api/studies/{id}/signals", { params: { path } })),
  ]).catch(() => [null, null] as const);
  if (!outcome || !found || outcome.numbers.method !== "control-chart") return null;
  const newest = outcome.numbers.points - 1;
  const signals = found.signals.filter(({ last, finding }) => last === newest && finding == null);
  const [first] = signals;
  if (!first) return { causes: found.causes, occasions: [] };
  // Several signals at one point have one cause, and are asked for it once.
  const more =
    signals.length === 1 ? "" : ` It is part of ${counted(signals.length - 1, "other signal", "other signals")} too.`;
  const say = async ({ cause, action, who }: { cause: string; action: string; who: string }) => {
    for (const { address } of signals) {
      const { revision } = await unwrapResponse(api.GET("/api/studies/{id}", { params: { path } }));
      const body = { revision, cause, action, owner: who };
      await unwrapResponse(
        api.PUT("/api/studies/{id}/signals/{address}", { params: { path: { ...path, address } }, body }),
      );
    }
  };
  const occasions: Occasion[] = [{ on: "signal", sentence: `${first.sentence}${more}`, pattern: first.pattern, say }];
  return { causes: found.causes, occasions };
}
