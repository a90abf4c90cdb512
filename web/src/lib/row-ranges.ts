/** Most stretches written into an address. */
const RANGES_MOST = 80;

/** Rows as stretches for an address: 3, 4, 5, 9 as "3-5.9". */
export function rowRanges(rows: readonly number[]): string | undefined {
  const ranges: [number, number][] = [];
  for (const row of [...rows].sort((a, b) => a - b)) {
    const last = ranges.at(-1);
    if (last && row <= last[1] + 1) last[1] = row;
    else ranges.push([row, row]);
  }
  const text = ranges.slice(0, RANGES_MOST).map(([from, to]) => (from === to ? String(from) : `${from}-${to}`));
  return text.length > 0 ? text.join(".") : undefined;
}

/** The rows of an address, and whether a row is one of them. */
export function readRanges(text: string | undefined): { count: number; first: number; has: (row: number) => boolean } {
  const ranges = (text ?? "")
    .split(".")
    .map((part) => /^(\d+)(?:-(\d+))?$/.exec(part))
    .flatMap((match) => (match ? [[Number(match[1]), Number(match[2] ?? match[1])] as const] : []));
  return {
    count: ranges.reduce((sum, [from, to]) => sum + to - from + 1, 0),
    first: ranges[0]?.[0] ?? 0,
    has: (row) => ranges.some(([from, to]) => row >= from && row <= to),
  };
}
