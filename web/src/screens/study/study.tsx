import { useQuery } from "@tanstack/react-query";
import { getRouteApi } from "@tanstack/react-router";
import { isFinal } from "../../api/client";
import { datasetQuery, methodsQuery, NO_DATA, studyQuery } from "../../api/queries";
import { Loading, Problem } from "../../parts/states";
import { Answer } from "./answer";

const route = getRouteApi("/study/$id");

/** One saved question, with all that it needs to be answered. */
export function StudyScreen() {
  const { id } = route.useParams();
  const study = useQuery(studyQuery(id));
  const about = study.data?.dataset_id ?? null;
  const read = useQuery({ ...datasetQuery(about ?? 0), enabled: about !== null });
  const dataset = study.data && about === null ? { ...read, data: NO_DATA, error: null } : read;
  const methods = useQuery(methodsQuery);
  const failed = [study, dataset, methods].find(({ error, data }) => isFinal(error, data));
  if (failed) return <Problem thrown={failed.error} />;
  const card = methods.data?.find((card) => card.method === study.data?.spec.method);
  if (!study.data || !dataset.data || !methods.data) return <Loading what="the study" />;
  if (!card) return <Problem thrown={new Error(`This version cannot answer “${study.data.spec.method}”.`)} />;
  return <Answer key={id} study={study.data} dataset={dataset.data} card={card} />;
}
