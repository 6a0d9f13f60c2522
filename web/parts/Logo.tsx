/** The product's mark, a level on its stand, in the colours of the theme. */
export function Logo({ width }: { width: number }) {
  return (
    <svg viewBox="0 0 32 20" width={width} height={(width * 20) / 32} aria-hidden className="logo">
      <rect x="3" y="2" width="26" height="10" rx="5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      <ellipse cx="16" cy="7" rx="5" ry="3.2" fill="var(--bubble)" />
      <path d="M11 2v10M21 2v10M2 15.5h28M7 15.5l-2.5 3.5M25 15.5l2.5 3.5" stroke="var(--ink)" strokeWidth="1.5" fill="none" />
    </svg>
  )
}
