/** The mark: a slanted staff with an ember at its tip. */
export function Mark() {
  return (
    <svg viewBox="0 0 32 32" width="22" height="22" aria-hidden="true">
      <path d="M7 28 21.5 9.5" stroke="var(--quiet)" strokeWidth="4" strokeLinecap="round" />
      <path
        d="M24 1.5c.6 3 4.2 4.2 4.2 8a5 5 0 0 1-10 0c0-2.400 1.6-3.300 2.3-5 .9.5 1.4 1.3 1.6 2.2C23.5 5.600 24.3 3.800 24 1.500Z"
        fill="var(--ember)"
      />
    </svg>
  );
}
