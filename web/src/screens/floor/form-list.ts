/** A list with one of its lines changed. */
export const withPart = <T>(all: T[], at: number, part: Partial<T>): T[] =>
  all.map((one, place) => (place === at ? { ...one, ...part } : one));

/** A list without one of its lines. */
export const without = <T>(all: T[], at: number): T[] => all.filter((_, place) => place !== at);
