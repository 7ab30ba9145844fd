import { Slider } from "radix-ui";
import { useRef } from "react";
import { findingsOf, openBuild } from "../../state/build-slice.ts";
import { type Thunk, useApp, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";

const RUN_MS = 900;

/** The run of the dial that is under way: the number of its next frame. */
const run = { frame: 0 };

/** Runs the fold smoothly to a share; at once where motion is not wanted. */
export const runFold =
  (to: number): Thunk =>
  (send, getState) => {
    // A run that is still under way gives way to the new one.
    cancelAnimationFrame(run.frame);
    const from = getState().view.fold;
    if (matchMedia("(prefers-reduced-motion: reduce)").matches) {
      send(viewActions.folded(to));
      return;
    }
    const start = performance.now();
    const span = RUN_MS * Math.max(0.3, Math.abs(to - from));
    const step = (now: number) => {
      const f = Math.min(1, Math.max(0, (now - start) / span));
      const eased = f < 0.5 ? 2 * f * f : 1 - (-2 * f + 2) ** 2 / 2;
      send(viewActions.folded(from + (to - from) * eased));
      if (f < 1) run.frame = requestAnimationFrame(step);
    };
    run.frame = requestAnimationFrame(step);
  };

/** Marks on the dial where plates or bends first meet. */
function FirstContacts() {
  const findings = useApp((s) => findingsOf(openBuild(s)));
  return findings.map(
    ({ collision, level }, i) =>
      collision && (
        <span
          key={i}
          data-contact-mark
          className={`absolute -top-[3px] h-[9px] w-[2px] ${level === "stop" ? "bg-stop" : "bg-warn"}`}
          style={{ left: `${collision.at * 100}%` }}
        />
      ),
  );
}

/** Takes the whole part from flat to folded. Double click runs it to the other end. */
export function FoldDial() {
  const fold = useApp((s) => s.view.fold);
  const send = useSend();
  const dial = useRef<HTMLDivElement>(null);
  return (
    <div ref={dial} className="pointer-events-auto absolute inset-x-4 bottom-3 flex h-8 items-center gap-3">
      <button
        type="button"
        aria-label="Lay flat"
        title="Lay flat"
        className="p-1 text-quiet hover:text-ink"
        onClick={() => send(runFold(0))}
      >
        <svg width="24" height="14" viewBox="0 0 24 14" aria-hidden="true">
          <path d="M1 11h22" stroke="currentColor" strokeWidth="1.8" />
        </svg>
      </button>
      <Slider.Root
        className="relative flex h-8 grow touch-none items-center"
        min={0}
        max={100}
        step={1}
        value={[Math.round(fold * 100)]}
        onValueChange={([v]) => {
          cancelAnimationFrame(run.frame);
          send(viewActions.folded(v / 100));
        }}
        onDoubleClick={() => send(runFold(fold > 0.5 ? 0 : 1))}
      >
        <Slider.Track className="relative h-[3px] grow rounded bg-hairline">
          <Slider.Range className="absolute h-full rounded bg-moss" />
          <FirstContacts />
        </Slider.Track>
        <Slider.Thumb
          aria-label="Fold dial"
          className="block size-4 rounded-full border-2 border-moss bg-panel shadow-sm"
        />
      </Slider.Root>
      <button
        type="button"
        aria-label="Fold up"
        title="Fold up"
        className="p-1 text-quiet hover:text-ink"
        onClick={() => send(runFold(1))}
      >
        <svg width="20" height="14" viewBox="0 0 20 14" aria-hidden="true">
          <path d="M1 1v8q0 3 3 3h12q3 0 3-3V1" fill="none" stroke="currentColor" strokeWidth="1.8" />
        </svg>
      </button>
      <span className="num w-12 text-right" data-fold-share>
        {Math.round(fold * 100)} %
      </span>
    </div>
  );
}
