import type { Schema } from "../api/client";
import type { Dataset, Study } from "../api/queries";

/** What a study goes by: its own name, or its question and measurement. */
export function studyName(study: Study, methods: Schema["MethodCard"][], datasets: Dataset[] = []): string {
  if (study.name) return study.name;
  const question = methods.find((method) => method.method === study.spec.method)?.question ?? study.spec.method;
  const dataset = datasets.find((dataset) => dataset.id === study.dataset_id)?.name;
  return dataset ? `${question} ${dataset}` : question;
}
