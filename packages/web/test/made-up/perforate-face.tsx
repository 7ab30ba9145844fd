import type { StepFace } from "../../src/steps/faces/step-face.ts";

/** The face of a kind of step that there is not: everything that the Bench has to be told. */
export const perforateFace: StepFace = {
  kind: "perforate",
  pictogram: <path d="M1 1h46v36H1Z" data-pictogram="perforate" />,
  grows: [{ on: "plate", key: "G", field: "size", label: "Pierce", values: { form: "square" } }],
  begins: () => ({ spots: [{ key: "a", x: "5" }] }),
  pictures: { form: () => ({ picture: (option) => <i>{option}</i>, note: (option) => `a ${option} one` }) },
  Follows: ({ context }) => <p data-follows>{context.values?.quantities.size} wide</p>,
  Beneath: () => <p data-beneath>below</p>,
  grips: ({ step }) => [
    {
      which: "length",
      title: "Drag the spots' size",
      step: step.id,
      field: "size",
      unit: "mm",
      anchor: { id: "handle-length", at: [0, 0, 0], along: [1, 0, 0], off: 20 },
      dragged: (by) => String(by),
      nudged: () => "5",
    },
  ],
};
