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
