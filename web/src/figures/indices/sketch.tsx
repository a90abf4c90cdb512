/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      {[14, 40, 66].map((y, row) => (
        <g key={y}>
          <path d={`M10 ${y + 14}a12 12 0 0 1 24 0`} fill="none" stroke="var(--ink)" strokeWidth="2" />
          <path d={`M22 ${y + 14}l${[5, -6, 8][row]} -8`} stroke="var(--ink)" strokeWidth="1.6" />
          <path d={`M46 ${y + 9}h${[40, 24, 32][row]}`} stroke="var(--slate-mid)" strokeWidth="6" />
          <circle cx={46 + ([40, 24, 32][row] ?? 0) / 2} cy={y + 9} r="4" fill="var(--slate)" />
        </g>
      ))}
      <path d="M74 8v80" stroke="var(--moss)" strokeWidth="1.6" />
    </>
  );
}
