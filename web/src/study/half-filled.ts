import type { Schema } from "../api/client";
import type { Column, Dataset, Spec } from "../api/queries";

/** A statement half filled from a dataset: the column with limits first, else the first that fits; a moment as order. */
export function halfFilled(method: Schema["MethodCard"], dataset: Dataset, measure?: Column): Spec {
  const roles: Spec["roles"] = {};
  for (const slot of method.slots) {
    if (slot.filling !== "column") continue;
    const fits = dataset.columns.filter((column) => slot.kinds.includes(column.kind));
    if (slot.required) {
      const limited = fits.find((column) => column.lsl != null || column.usl != null);
      const chosen = measure && fits.includes(measure) ? measure : (limited ?? fits.find((c) => c.kind === "number"));
      if (chosen) roles[slot.name] = chosen.name;
    } else {
      const moment = fits.find((column) => column.kind === "date-time");
      if (moment) roles[slot.name] = moment.name;
    }
  }
  return { method: method.method, roles, options: {}, data: { dataset: dataset.id } };
}
