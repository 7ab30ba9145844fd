/** What each kind of step makes, as a small picture in section or plan. One entry a step kind. */
const PICTURES: Readonly<Record<string, React.ReactNode>> = {
  plate: (
    <>
      <path d="M6 27 19 15h23L31 27Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path
        d="M6 27v3h25v-3M31 30l11-12v-3"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
    </>
  ),
  profile: (
    <>
      <path
        d="M6 9v14q0 6 6 6h18q6 0 6-6v-5q0-3 3-3h5v-4h-5q-7 0-7 7v5q0 2-2 2H12q-2 0-2-2V9Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
    </>
  ),
  hem: (
    <>
      <path
        d="M5 23h28q5 0 5 4.5t-5 4.5H18v-4h14q1 0 1-.5t-1-.5H5Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M41 8v26" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  lug: (
    <>
      <path
        d="M6 26 18 15h5l4-5h9l-4 5h7L28 26Z"
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M23 15h9" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  fold: (
    <>
      <path d="M5 26 15 18h11L16 26Z" fill="var(--metal-a)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M16 26 26 18 38 6 29 15Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M16 26 26 18" stroke="var(--bend-up)" strokeWidth="1.6" />
    </>
  ),
  jog: (
    <path
      d="M4 30h14q7 0 7-7v-4q0-2 2-2h17v-4H27q-7 0-7 7v4q0 2-2 2H4Z"
      fill="var(--metal-edge)"
      stroke="currentColor"
      strokeLinejoin="round"
    />
  ),
  split: (
    <>
      <path d="M4 26 13 15h8L12 26Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M20 26 29 15h14L34 26Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  cut: (
    <>
      <path d="M6 27 18 12h25L31 27Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="m17 23 5-7h11l-5 7Z" fill="var(--panel)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  bend: (
    <>
      <path
        d="M6 30h12q12 0 12-12V6h4v12q0 16-16 16H6Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M18 22 26 27" stroke="var(--bend-up)" strokeWidth="1.6" />
      <path d="M18 22h5M18 22v5" stroke="var(--bend-up)" />
    </>
  ),
  hold: (
    <>
      <path d="M4 25h40v4H4Z" fill="var(--metal-edge)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M24 25V10" stroke="var(--bend-up)" strokeDasharray="3 2" />
      <path d="M13 8v9m-3-3 3 4 3-4M35 8v9m-3-3 3 4 3-4" stroke="currentColor" />
    </>
  ),
  corner: (
    <>
      <path d="M6 28V13l17-5v16Z" fill="var(--metal-a)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M42 28V13L25 8v16Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  round: (
    <>
      <path
        d="M10 31V18q0-11 11-11h18v24Z"
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M10 18V7h11" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  mirror: (
    <>
      <path d="M5 29h12V10Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M43 29H31V10Z" fill="none" stroke="currentColor" strokeLinejoin="round" />
      <path d="M24 4v30" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  pattern: (
    <>
      <rect x="5" y="13" width="9" height="14" fill="var(--metal-b)" stroke="currentColor" />
      <rect x="19.5" y="13" width="9" height="14" fill="none" stroke="currentColor" />
      <rect x="34" y="13" width="9" height="14" fill="none" stroke="currentColor" />
    </>
  ),
  flange: (
    <>
      <path
        d="M5 28h20q7 0 7-7V6h4v16q0 10-10 10H5Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M40 6v26" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
};

export function StepPictogram({ kind }: { kind: string }) {
  return (
    <svg width="48" height="38" viewBox="0 0 48 38" fill="none" aria-hidden="true">
      {PICTURES[kind]}
    </svg>
  );
}
