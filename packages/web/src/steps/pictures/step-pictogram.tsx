import { stepFace } from "../faces/step-faces.ts";

/** What a kind of step makes, as a small picture. */
export function StepPictogram({ kind }: { kind: string }) {
  return (
    <svg width="48" height="38" viewBox="0 0 48 38" fill="none" aria-hidden="true">
      {stepFace(kind)?.pictogram}
    </svg>
  );
}
