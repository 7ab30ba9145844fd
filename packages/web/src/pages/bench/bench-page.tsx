import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { edit } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { useAsk, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import { StepsColumn } from "../../steps/column/steps-column.tsx";
import { bendChange } from "./bend-change.ts";
import { Drawer } from "./drawer/drawer.tsx";
import { useBenchKeys } from "./keys/use-bench-keys.ts";
import { TopLine } from "./top-line.tsx";
import { ViewsPane } from "./views-pane.tsx";

/** Takes over what the Bend study said about a bend, as a step that can be undone. */
function useBendChange(): void {
  const { state } = useLocation();
  const send = useSend();
  const ask = useAsk();
  const navigate = useNavigate();
  const asked = (state as { bendChange?: { bend: string; change: Record<string, unknown> } } | null)
    ?.bendChange;
  useEffect(() => {
    if (!asked) return;
    // Once only: going back and forth must not add it again.
    navigate(".", { replace: true, state: null });
    if (Object.keys(asked.change).length === 0) return;
    const { document } = ask(openPart);
    if (!document) return;
    const { command, step } = bendChange(document, asked.bend, asked.change);
    edit(command, { step });
    send(viewActions.stepOpened(step));
    send(viewActions.picked({ pick: { kind: "bend", id: asked.bend }, add: false }));
  }, [asked, navigate, send, ask]);
}

/** The page on which a part is made. */
export function BenchPage() {
  useBenchKeys();
  useBendChange();
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <TopLine />
      <div className="flex min-h-0 grow">
        <div className="flex min-w-0 grow flex-col">
          <ViewsPane />
          <Drawer />
        </div>
        <div className="w-[344px] shrink-0">
          <StepsColumn />
        </div>
      </div>
    </div>
  );
}
