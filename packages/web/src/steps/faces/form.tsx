import { type FormItem, formOf } from "@hillcrest/core";
import { choosePlaced } from "../../state/placing.ts";
import type { Placed } from "../../state/view-slice.ts";
import { FormOption } from "./form-picture.tsx";
import type { StepFace } from "./step-face.ts";

export const formFace: StepFace = {
  kind: "form",
  pictogram: (
    <path
      d="M4 25h8c4 0 4-9 8-9h8c4 0 4 9 8 9h8v4H34c-4 0-4-9-8-9h-4c-4 0-4 9-8 9H4Z"
      fill="var(--metal-b)"
      stroke="currentColor"
      strokeLinejoin="round"
    />
  ),
  pictures: {
    shape: ({ step }) => ({
      picture: (option) => <FormOption option={option} kept={formOf(step) as FormItem | undefined} />,
    }),
  },
  Follows: ({ context }) =>
    context.notes?.made ? (
      <p data-note="made" className="mt-1 text-[12px] leading-snug text-quiet">
        {context.notes.made}
      </p>
    ) : null,
  chooses: {
    placed: (step, option) => {
      void choosePlaced(step, option as Placed);
      return true;
    },
  },
};
