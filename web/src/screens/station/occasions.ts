import { api, type Schema, unwrapResponse } from "../../api/client";

/** What is said of the cause of something. */
type Said = { cause: string; action: string; who: string };

/** Something that asks for its cause, with the way to keep what is said of it. */
export type Occasion = Schema["Happened"] & { say: (said: Said) => Promise<unknown> };

/** An entry with values beyond specification asks why. */
export const ofEntry = (id: number, happened: Schema["Happened"]): Occasion => ({
  ...happened,
  say: (reaction) =>
    unwrapResponse(api.POST("/api/floor/entries/{id}/reaction", { params: { path: { id } }, body: reaction })),
});

/** Signals at the newest points of the charts that watch a station, about which nothing was said, with the causes that there are. */
export async function newestSignals(station: number) {
  const { newest, causes } = await unwrapResponse(
    api.GET("/api/floor/stations/{id}/signals", { params: { path: { id: station } } }),
  );
  return { causes, occasions: newest.map(ofSignals) };
}

function ofSignals({ study_id, addresses, ...happened }: Schema["NewestSignals"]): Occasion {
  const path = { id: study_id };
  // Several signals at one point have one cause.
  const say = async ({ cause, action, who }: Said) => {
    for (const address of addresses) {
      const { revision } = await unwrapResponse(api.GET("/api/studies/{id}", { params: { path } }));
      const body = { revision, cause, action, owner: who };
      await unwrapResponse(
        api.PUT("/api/studies/{id}/signals/{address}", { params: { path: { ...path, address } }, body }),
      );
    }
  };
  return { ...happened, say };
}
