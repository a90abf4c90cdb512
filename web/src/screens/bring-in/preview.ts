import type { Schema } from "../../api/client";

/** A file as it is understood so far. */
export type Preview = Schema["Preview"];

/** Corrections to how it is understood. */
export type ReadOptions = Schema["ReadOptions"];
