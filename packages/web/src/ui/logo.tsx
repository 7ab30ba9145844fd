/** The crest of a hill, bent from one strip. */
export function Logo() {
  return (
    <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden="true" className="text-moss">
      <path
        d="M1 18h7l7-14 7 14h7"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.4"
        strokeLinejoin="round"
      />
    </svg>
  );
}
