/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M6 16h92M6 82h92" stroke="var(--ink)" strokeWidth="2" />
      <path d="M8 50l7-10 7 14 7-22 7 16 7-8 5 12" fill="none" stroke="var(--slate)" strokeWidth="1.8" />
      <path d="M54 26h6v8h-6zM54 36h15v8H54zM54 46h22v8H54zM54 56h12v8H54zM54 66h5v8h-5z" fill="var(--slate)" />
      <path d="M83 74l13-50" stroke="var(--ink-soft)" strokeWidth="1.4" />
      <path
        d="M83 73v.1M86 64v.1M88 56v.1M90 48v.1M92 40v.1M96 27v.1"
        stroke="var(--slate)"
        strokeWidth="4"
        strokeLinecap="round"
      />
    </>
  );
}
