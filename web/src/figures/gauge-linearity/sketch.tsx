/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M10 24L98 62v12L10 40z" fill="var(--ochre)" fillOpacity="0.2" />
      <path d="M10 32L98 68" stroke="var(--ochre)" strokeWidth="2" />
      <path d="M8 50h92" stroke="var(--ink)" strokeWidth="1.6" />
      <g fill="var(--slate)">
        <circle cx="20" cy="30" r="2.4" />
        <circle cx="20" cy="42" r="2.4" />
        <circle cx="40" cy="40" r="2.4" />
        <circle cx="40" cy="50" r="2.4" />
        <circle cx="62" cy="46" r="2.4" />
        <circle cx="62" cy="58" r="2.4" />
        <circle cx="86" cy="56" r="2.4" />
        <circle cx="86" cy="70" r="2.4" />
      </g>
    </>
  );
}
