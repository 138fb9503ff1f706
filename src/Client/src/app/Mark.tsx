/** Two posts and a slack rope. */
export function Mark({ width = 54 }: { width?: number }) {
  return (
    <svg width={width} height={(width * 46) / 54} viewBox="0 0 54 46" role="img" aria-label="Velvet Gate">
      <g fill="#B6842A" className="markposts">
        <rect x="8" y="12" width="4" height="28" />
        <rect x="42" y="12" width="4" height="28" />
        <circle cx="10" cy="8" r="5.4" />
        <circle cx="44" cy="8" r="5.4" />
        <path d="M2 43h16v-2q-2-3-8-3t-8 3zM36 43h16v-2q-2-3-8-3t-8 3z" />
      </g>
      <path d="M12 17Q24 22 27 36Q30 22 42 17" fill="none" stroke="#B2679C" strokeWidth="5" strokeLinejoin="round" />
      <path d="M12 15.6Q24.5 21 27 32" fill="none" stroke="#E0B3D2" strokeWidth="1.2" />
    </svg>
  )
}
