import { type FocusEvent, type RefObject, useCallback, useEffect, useRef, useState } from "react";
import { NewFindings, useFoundBefore } from "../../views/folded/new-findings.tsx";

interface Typing {
  readonly step: string;
  readonly top: number;
  readonly right: number;
}

type Tell = (typing: Typing | undefined) => void;

/**
 * What a value that is being typed breaks elsewhere in the part: said beside the column for as long as its field has
 * the focus. What it breaks in its own step stands in that step. The column itself is not drawn anew for it.
 */
export function useTypedFindings() {
  const tell = useRef<Tell>(() => {});
  const onFocus = useCallback(({ target, currentTarget }: FocusEvent<HTMLElement>) => {
    const step = target.closest<HTMLElement>("[data-step]")?.dataset.step;
    if (step === undefined || !target.matches("input[data-field]")) return tell.current(undefined);
    tell.current({
      step,
      top: target.getBoundingClientRect().top,
      right: window.innerWidth - currentTarget.getBoundingClientRect().left + 10,
    });
  }, []);
  const onBlur = useCallback(() => tell.current(undefined), []);
  return { told: <Told tell={tell} />, handlers: { onFocus, onBlur } };
}

function Told({ tell }: { tell: RefObject<Tell> }) {
  const [typing, setTyping] = useState<Typing>();
  useEffect(() => {
    tell.current = setTyping;
  }, [tell]);
  const [known, begin] = useFoundBefore();
  useEffect(() => {
    if (typing) begin();
  }, [typing, begin]);
  if (!typing) return null;
  return (
    <div
      role="status"
      className="pointer-events-none fixed z-20"
      style={{ top: Math.min(typing.top, window.innerHeight - 140), right: typing.right }}
    >
      <NewFindings known={known} but={typing.step} />
    </div>
  );
}
