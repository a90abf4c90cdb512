import { useQuery } from "@tanstack/react-query";
import { isFinal } from "../../api/client";
import { datasetQuery, methodsQuery, NO_DATA, studyQuery } from "../../api/queries";

/** A saved question with all that it needs to be answered. */
export function useStudy(id: number) {
  const study = useQuery(studyQuery(id));
  const about = study.data?.dataset_id ?? null;
  const read = useQuery({ ...datasetQuery(about ?? 0), enabled: about !== null });
  const dataset = study.data && about === null ? { ...read, data: NO_DATA, error: null } : read;
  const methods = useQuery(methodsQuery);
  const card = methods.data?.find((card) => card.method === study.data?.spec.method);
  const unknown = study.data && methods.data && !card;
  const failed =
    [study, dataset, methods].find(({ error, data }) => isFinal(error, data))?.error ??
    (unknown ? new Error(`This version cannot answer “${study.data.spec.method}”.`) : null);
  return { failed, study: study.data, dataset: dataset.data, card };
}
