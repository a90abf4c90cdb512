/** Most stretches written into an address, which browsers keep up to some thousand letters long. */
const RANGES_MOST = 400;

/** Stretches of row ids for an address: 3 to 5 and 9 as "3-5.9". Nothing when there are none, or too many to write. */
export function rowAddress(ranges: readonly (readonly number[])[]): string | undefined {
  if (ranges.length === 0 || ranges.length > RANGES_MOST) return undefined;
  return ranges.map(([from, to]) => (from === to ? String(from) : `${from}-${to}`)).join(".");
}

/** Row ids as stretches, in rising order. */
export function rangesOf(ids: readonly number[]): [number, number][] {
  const ranges: [number, number][] = [];
  for (const id of [...ids].sort((a, b) => a - b)) {
    const last = ranges.at(-1);
    if (last && id <= last[1] + 1) last[1] = id;
    else ranges.push([id, id]);
  }
  return ranges;
}

/** Stretches of positions as one set of rows. */
export function stretches(ranges: readonly (readonly number[])[]) {
  const pairs = ranges.map(([from = 0, to = from]) => [from, to] as const);
  return {
    count: pairs.reduce((sum, [from, to]) => sum + to - from + 1, 0),
    first: pairs[0]?.[0] ?? 0,
    has: (row: number) => pairs.some(([from, to]) => row >= from && row <= to),
  };
}
