import type { Why } from "@hillcrest/core";
import { store } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import { Popover } from "../../ui/popover.tsx";

interface WhyNumberProps {
  readonly text: string;
  readonly label: string;
  readonly why: () => Why;
}

/** A computed number that can be asked why: formula, inputs and where they come from. */
export function WhyNumber({ text, label, why }: WhyNumberProps) {
  return (
    <Popover
      label={`Why ${text}?`}
      trigger={
        <button
          type="button"
          className="num rounded-sm decoration-dotted underline-offset-2 hover:text-moss hover:underline"
          title={`Why ${text}?`}
          aria-label={`${text}, ${label}: why?`}
        >
          {text}
        </button>
      }
    >
      <WhyCard why={why()} />
    </Popover>
  );
}

function WhyCard({ why }: { why: Why }) {
  return (
    <div data-why className="min-w-[270px] border-l-[3px] border-moss pl-3">
      <p className="mb-1.5">
        <b>Why {why.result}?</b> <span className="text-quiet">{why.title}</span>
      </p>
      {why.lines.map((l) => (
        <p key={l.text} className="leading-[1.8]">
          <span className="num">{l.text}</span>
          {l.source && <span className="text-quiet"> · </span>}
          {l.source &&
            (l.step ? (
              <button
                type="button"
                className="text-moss hover:underline"
                onClick={() => store.dispatch(viewActions.stepOpened(l.step))}
              >
                {l.source}
              </button>
            ) : (
              <span className="text-quiet">{l.source}</span>
            ))}
        </p>
      ))}
    </div>
  );
}
