/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M12 84L98 14l0 22L12 92z" fill="var(--moss)" fillOpacity="0.14" />
      <path d="M12 88L98 24" stroke="var(--moss)" strokeWidth="2" />
      <g fill="var(--slate)" fillOpacity="0.7">
        <circle cx="20" cy="80" r="3.4" />
        <circle cx="30" cy="86" r="3.4" />
        <circle cx="36" cy="64" r="3.4" />
        <circle cx="46" cy="70" r="3.4" />
        <circle cx="54" cy="50" r="3.4" />
        <circle cx="62" cy="58" r="3.4" />
        <circle cx="72" cy="36" r="3.4" />
        <circle cx="82" cy="42" r="3.4" />
        <circle cx="92" cy="22" r="3.4" />
      </g>
      <path d="M8 8v86h94" fill="none" stroke="var(--ink-soft)" strokeWidth="1.4" />
    </>
  );
}
