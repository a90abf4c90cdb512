/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <g fill="var(--ink)" fillOpacity="0.08">
        <path d="M8 10h28v22H8zM40 10h28v22H40zM72 10h28v22H72zM8 38h28v22H8zM40 38h28v22H40zM72 38h28v22H72zM8 66h28v22H8zM40 66h28v22H40zM72 66h28v22H72z" />
      </g>
      <path
        d="M12 24h12M44 24h14M76 24h9M12 52h9M76 52h14M12 80h15M44 80h8M76 80h12"
        stroke="var(--slate)"
        strokeWidth="6"
      />
      <path d="M44 52h21" stroke="var(--plum)" strokeWidth="6" />
      <path
        d="M26 18v12M56 18v12M88 18v12M24 46v12M52 46v12M87 46v12M25 74v12M53 74v12M86 74v12"
        stroke="var(--ochre)"
        strokeWidth="2"
      />
      <circle cx="62" cy="42" r="6" fill="none" stroke="var(--plum)" strokeWidth="2" />
    </>
  );
}
