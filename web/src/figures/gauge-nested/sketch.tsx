/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M10 70h14V58h14V44h12" fill="none" stroke="var(--moss)" strokeWidth="2" />
      <path d="M62 62h14V44h14V30h12" fill="none" stroke="var(--moss)" strokeWidth="2" />
      <path d="M56 14v70" stroke="var(--ink-soft)" strokeDasharray="2 3" />
      <g fill="var(--slate)">
        <circle cx="17" cy="67" r="2.6" />
        <circle cx="17" cy="74" r="2.6" />
        <circle cx="31" cy="54" r="2.6" />
        <circle cx="31" cy="62" r="2.6" />
        <circle cx="44" cy="40" r="2.6" />
      </g>
      <g fill="var(--ochre)">
        <path d="M66 56h5v5h-5zM66 65h5v5h-5zM80 39h5v5h-5zM80 48h5v5h-5zM94 25h5v5h-5z" />
      </g>
    </>
  );
}
