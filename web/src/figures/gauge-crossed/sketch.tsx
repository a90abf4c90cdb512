/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M10 74h18V62h18V40h18V24h16" fill="none" stroke="var(--moss)" strokeWidth="2" />
      <g fill="var(--slate)">
        <circle cx="15" cy="72" r="2.6" />
        <circle cx="33" cy="59" r="2.6" />
        <circle cx="51" cy="42" r="2.6" />
        <circle cx="68" cy="22" r="2.6" />
      </g>
      <g fill="var(--ochre)">
        <path d="M20 74h5v5h-5zM38 62h5v5h-5zM56 33h5v5h-5zM72 25h5v5h-5z" />
      </g>
      <rect x="86" y="38" width="8" height="22" rx="2" fill="var(--plum)" />
      <path d="M84 14h12v70H84z" fill="none" stroke="var(--ink-soft)" strokeWidth="1.4" strokeDasharray="2 3" />
    </>
  );
}
