/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <g fill="var(--slate)">
        <rect x="10" y="14" width="58" height="9" rx="1.5" />
        <rect x="10" y="27" width="34" height="9" rx="1.5" />
        <rect x="10" y="40" width="20" height="9" rx="1.5" />
      </g>
      <rect x="10" y="60" width="24" height="9" rx="1.5" fill="var(--ink-soft)" fillOpacity="0.4" />
      <path d="M8 54h62" stroke="var(--moss)" strokeWidth="1.6" />
      <path d="M74 12H86V25H91V38H94V51H98V70" fill="none" stroke="var(--moss)" strokeWidth="2" />
    </>
  );
}
