/** Most stretches written into an address, which browsers keep up to some thousand letters long. */
const RANGES_MOST = 400;

/** Stretches of row ids for an address: 3 to 5 and 9 as "3-5.9". */
export function rowAddress(ranges: readonly (readonly number[])[]): string | undefined {
  const text = ranges.slice(0, RANGES_MOST).map(([from, to]) => (from === to ? String(from) : `${from}-${to}`));
  return text.length > 0 ? text.join(".") : undefined;
}

/** Row ids as stretches for an address: 3, 4, 5, 9 as "3-5.9". */
export function rowRanges(rows: readonly number[]): string | undefined {
  const ranges: [number, number][] = [];
  for (const row of [...rows].sort((a, b) => a - b)) {
    const last = ranges.at(-1);
    if (last && row <= last[1] + 1) last[1] = row;
    else ranges.push([row, row]);
  }
  return rowAddress(ranges);
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
