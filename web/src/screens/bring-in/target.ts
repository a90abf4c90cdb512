import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Dataset } from "../../api/queries";
import type { Preview } from "./preview";

const alike = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** How the columns of a file meet those of a dataset: by name, in the kind that they have there; the others are left out, or come new. */
export function meeting(preview: Preview, target: Dataset, news = false): Schema["ColumnReadOptions"][] {
  return preview.columns.map(({ index, name }) => {
    const own = target.columns.find((column) => alike(column.name, name) && column.formula == null);
    const mended = preview.read_options.columns?.find((column) => column.index === index);
    const met = own ? { name: own.name, kind: own.kind, leave_out: false } : { leave_out: !news };
    return { ...mended, index, ...met };
  });
}

/** The file read again so that its columns meet those of the dataset. */
export const metBy = (preview: Preview, target: Dataset) =>
  unwrapResponse(
    api.PUT("/api/imports/{id}", {
      params: { path: { id: preview.id } },
      body: { ...preview.read_options, columns: meeting(preview, target) },
    }),
  );

/** Columns of the file that have no place in the dataset, and columns of the dataset that the file does not fill. */
export function unmet(preview: Preview, target: Dataset) {
  const kept = preview.columns.filter((column) => !column.left_out);
  const nowhere = preview.columns.filter(({ name }) => !target.columns.some((own) => alike(own.name, name)));
  const empty = target.columns.filter(
    ({ name, formula }) => formula == null && !kept.some((column) => column.name === name),
  );
  return { nowhere: nowhere.map(({ name }) => name), empty: empty.map(({ name }) => name) };
}
