const ROWS = ["111000", "111000", "101000", "111010"];

/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      {ROWS.flatMap((row, y) =>
        [...row].map((cell, x) => {
          const [left, top] = [14 + 14 * x, 16 + 16 * y + (y > 0 ? 6 : 0)];
          const odd = cell !== ROWS[0]?.[x];
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: cells are told apart by their place
            <g key={`${x} ${y}`}>
              {cell === "1" ? (
                <rect x={left} y={top} width="9" height="9" rx="1.5" fill="var(--slate)" />
              ) : (
                <circle cx={left + 4.5} cy={top + 4.5} r="4" fill="none" stroke="var(--moss)" strokeWidth="1.4" />
              )}
              {odd && (
                <circle cx={left + 4.5} cy={top + 4.5} r="8" fill="none" stroke="var(--plum)" strokeWidth="1.6" />
              )}
            </g>
          );
        }),
      )}
    </>
  );
}
