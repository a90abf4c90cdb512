import { getRouteApi } from "@tanstack/react-router";
import { Loading, Problem } from "../../parts/states";
import { Answer } from "./answer";
import { useStudy } from "./use-study";

const route = getRouteApi("/study/$id");

/** One saved question with its answer. */
export function StudyScreen() {
  const { id } = route.useParams();
  const { failed, study, dataset, card } = useStudy(id);
  if (failed) return <Problem thrown={failed} />;
  if (!study || !dataset || !card) return <Loading what="the study" />;
  return <Answer key={id} study={study} dataset={dataset} card={card} />;
}
