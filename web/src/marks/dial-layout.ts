import type { Schema } from "../api/client";

type Limits = { lsl?: number | null; target?: number | null; usl?: number | null };

/** Everything the dial draws, in shares of the half circle: 0 at the left end, 1 at the right one. */
export type DialGeometry = {
  /** Solid parts of the arc; a missing limit leaves its half open. */
  leftClosed: boolean;
  rightClosed: boolean;
  needle: number | null;
  target: number | null;
  /** Mean ± 3 short-term sd, cut at the limits. */
  outer: [number, number] | null;
  /** Mean ± 1 short-term sd, cut at the limits. */
  inner: [number, number] | null;
  beyondLeft: boolean;
  beyondRight: boolean;
};

/** Where the arc begins and ends in the unit of the values. An open end mirrors the closed one about the mean,
 * but a mean above zero keeps an open left end from passing zero. */
export function arcEnds(limits: Limits, mean: number): [number, number] | null {
  const { lsl, usl } = limits;
  if (lsl != null && usl != null) return [lsl, usl];
  if (usl != null) {
    const mirrored = mean - (usl - mean);
    const low = mean >= 0 ? Math.max(mirrored, 0) : mirrored;
    return low < usl ? [low, usl] : [usl - Math.max(Math.abs(usl), 1), usl];
  }
  if (lsl != null) {
    const high = mean + (mean - lsl);
    return high > lsl ? [lsl, high] : [lsl, lsl + Math.max(Math.abs(lsl), 1)];
  }
  return null;
}

const clamp = (share: number) => Math.max(0, Math.min(1, share));

/** Of counts the arc begins at nothing and goes on beyond what was seen and what is expected; the band is what lies within the control
 * limits. */
function countedGeometry({ mean, lcl, ucl, recent }: Schema["Dial"]): DialGeometry | null {
  if (mean == null) return null;
  const seen = recent.filter((value): value is number => value != null);
  const high = 1.1 * Math.max(ucl ?? 0, mean, ...seen);
  if (high <= 0) return null;
  return {
    leftClosed: true,
    rightClosed: false,
    needle: mean / high,
    target: null,
    outer: ucl == null ? null : [(lcl ?? 0) / high, ucl / high],
    inner: null,
    beyondLeft: false,
    beyondRight: false,
  };
}

export function dialGeometry(limits: Limits, dial: Schema["Dial"]): DialGeometry | null {
  if (dial.of !== "values") return countedGeometry(dial);
  const ends = dial.mean == null ? null : arcEnds(limits, dial.mean);
  if (!ends || dial.mean == null) return null;
  const [low, high] = ends;
  const share = (value: number) => (value - low) / (high - low);
  const band = (width: number): [number, number] | null => {
    if (dial.mean == null || dial.sd_within == null) return null;
    return [clamp(share(dial.mean - width * dial.sd_within)), clamp(share(dial.mean + width * dial.sd_within))];
  };
  const reach = dial.sd_within == null ? 0 : 3 * dial.sd_within;
  const needle = share(dial.mean);
  return {
    leftClosed: limits.lsl != null,
    rightClosed: limits.usl != null,
    needle: Math.max(-0.04, Math.min(1.04, needle)),
    target: limits.target == null ? null : clamp(share(limits.target)),
    outer: band(3),
    inner: band(1),
    beyondLeft: limits.lsl != null && dial.mean - reach < limits.lsl,
    beyondRight: limits.usl != null && dial.mean + reach > limits.usl,
  };
}
