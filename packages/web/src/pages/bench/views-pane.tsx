import { lengthText, type PartBuild, unitName, whyBlankSize, whyFoldedSize } from "@hillcrest/core";
import { type ReactNode, useCallback, useRef } from "react";
import { offeredCorners, openBuild } from "../../state/build-slice.ts";
import { buildAgain, stopBuilding } from "../../state/building.ts";
import { drawnNow } from "../../state/drawing.ts";
import { togglePick } from "../../state/edits.ts";
import { useLabels } from "../../state/labels.ts";
import { openPart } from "../../state/part-slice.ts";
import { useBenchSources } from "../../state/sources.ts";
import { type State, useApp, useAsk, useSend } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { type Pick, viewActions } from "../../state/view-slice.ts";
import { gripsOn } from "../../steps/faces/grips-on.ts";
import { TypeHere } from "../../steps/type-here.tsx";
import { Button } from "../../ui/button.tsx";
import { ErrorBoundary } from "../../ui/error-boundary.tsx";
import { focusFirstField, focusViews, isControl } from "../../ui/focus.ts";
import { ProgressBar } from "../../ui/progress-bar.tsx";
import { WhyNumber } from "../../ui/why-card.tsx";
import { BlankView } from "../../views/blank/blank-view.tsx";
import { FoldDial } from "../../views/folded/fold-dial.tsx";
import { FoldedView } from "../../views/folded/folded-view.tsx";
import { DrawingPane } from "./drawing/drawing-pane.tsx";
import { PickCard } from "./picking/pick-card.tsx";

const nameOf = (pick: Pick): string =>
  pick.kind === "edge" || pick.kind === "corner" ? pick.name : pick.kind === "hole" ? pick.key : pick.id;

/** Folded and blank side by side, with the pick card over both. */
export function ViewsPane() {
  const views = useApp((s) => s.view.views);
  const split = useApp((s) => s.view.split);
  const busy = useApp(isBusy);
  const pane = useRef<HTMLDivElement>(null);
  const labels = useLabels();
  const pick = usePicking(pane);
  const drawing = useApp((s) => drawnNow(s) !== undefined);
  // What is drawn is seen, whatever was chosen.
  const shown = drawing && views === "folded" ? "both" : views;
  return (
    <div
      ref={pane}
      data-views
      tabIndex={-1}
      aria-busy={busy}
      className="relative flex min-h-0 grow outline-none"
      onPointerDown={(e) => isControl(e.target) || focusViews()}
    >
      {shown !== "blank" && (
        <section
          aria-label="Folded"
          className="relative min-w-0 overflow-hidden"
          style={{ width: shown === "both" ? `${(drawing ? Math.min(split, 0.36) : split) * 100}%` : "100%" }}
        >
          <FoldedPane onPick={pick} />
        </section>
      )}
      {shown === "both" && <Divider pane={pane} />}
      {shown !== "folded" && (
        <section aria-label={drawing ? "Drawing" : "Blank"} className="relative min-w-0 grow overflow-hidden">
          {drawing ? <DrawingPane /> : <BlankPane onPick={pick} />}
        </section>
      )}
      <Notices />
      <PickingHint />
      <PickCard labels={labels} pane={pane} />
    </div>
  );
}

/** Whether what the views show is still to follow the document, or what can be picked is still being found. */
function isBusy(state: State): boolean {
  const { failed, document, stopped } = openBuild(state);
  const now = openPart(state).document;
  const finding = state.view.pickingFor?.of === "corner" && !offeredCorners(state);
  return !failed && stopped !== now && (document !== now || finding);
}

type OnPick = ReturnType<typeof usePicking>;

function FoldedPane({ onPick }: { onPick: OnPick }) {
  const build = useApp((s) => openBuild(s).shown?.build);
  const units = useUnits();
  return (
    <>
      <Head
        title="Folded"
        size={
          build?.folded && (
            <>
              <FoldedSide build={build} axis={0} /> × <FoldedSide build={build} axis={1} /> ×{" "}
              <FoldedSide build={build} axis={2} /> {unitName(units)}
            </>
          )
        }
      />
      <ErrorBoundary fallback={<NoFoldedView />}>
        <FoldedView onPick={onPick} gripsOn={gripsOn} />
      </ErrorBoundary>
      {build?.sheet && <FoldDial />}
    </>
  );
}

function BlankPane({ onPick }: { onPick: OnPick }) {
  const build = useApp((s) => openBuild(s).shown?.build);
  const units = useUnits();
  return (
    <>
      <Head
        title="Blank"
        size={
          build?.blank && (
            <>
              <BlankSide build={build} side="width" /> × <BlankSide build={build} side="height" />{" "}
              {unitName(units)}
            </>
          )
        }
      />
      <BlankView onPick={onPick} Typed={TypeHere} />
    </>
  );
}

/** What is to be said of the views as a whole: that there is nothing yet, that it is not the latest, that it failed. */
function Notices() {
  const made = useApp((s) => openBuild(s).shown?.build.sheet !== undefined);
  const stale = useApp((s) => openBuild(s).stale);
  const steps = useApp((s) => openPart(s).document?.steps.length ?? 0);
  const drawing = useApp((s) => drawnNow(s) !== undefined);
  const failed = useApp((s) => openBuild(s).failed);
  return (
    <>
      {!made && steps === 0 && !drawing && <NothingYet />}
      {stale && !drawing && (
        <p
          role="status"
          data-stale
          className="pointer-events-none absolute top-10 left-1/2 -translate-x-1/2 rounded-full border border-amber bg-amber-soft px-3 py-1 text-[12.5px]"
        >
          The last good shape, while a step is wrong
        </p>
      )}
      <Progress />
      {failed && (
        <p
          role="alert"
          className="absolute inset-x-10 top-10 z-10 rounded-md border border-stop bg-panel px-3 py-2"
        >
          The shape could not be worked out ({failed}). Your part is safe and goes on being saved; undo the
          last change, or save the document from the arrow beside Save DXF.
        </p>
      )}
    </>
  );
}

/** How far a build is that takes its time, and a way to stop it; or that it was stopped, and a way to go on. */
function Progress() {
  const progress = useApp((s) => openBuild(s).progress);
  const stopped = useApp((s) => {
    const { document } = openPart(s);
    return document !== undefined && openBuild(s).stopped === document;
  });
  const made = useApp((s) => openBuild(s).shown !== undefined);
  if (!progress && !stopped) return null;
  return (
    <div
      role="status"
      data-building
      className="absolute top-10 left-1/2 z-10 flex -translate-x-1/2 items-center gap-3 rounded-full border border-hairline bg-panel py-1 pr-1.5 pl-3 text-[12.5px] shadow-card"
    >
      {progress ? (
        <>
          <span className="num whitespace-nowrap">{progress.doing} …</span>
          <ProgressBar
            label={progress.doing}
            done={Math.round(progress.share * 100)}
            of={100}
            className="h-1 w-28"
          />
          <Button kind="quiet" onClick={stopBuilding}>
            Stop
          </Button>
        </>
      ) : (
        <>
          <span className="whitespace-nowrap">
            {made ? "Stopped: the views show the part as it was before." : "Stopped: nothing is built yet."}
          </span>
          <Button kind="quiet" onClick={buildAgain}>
            Build it
          </Button>
        </>
      )}
    </div>
  );
}

/** What a pick in either view does: it goes to the step that asks for it, is measured, or is picked. */
function usePicking(pane: React.RefObject<HTMLDivElement | null>) {
  const send = useSend();
  const ask = useAsk();
  return useCallback(
    (found: Pick | undefined, e: { clientX: number; clientY: number; shiftKey: boolean }) => {
      const view = ask((s) => s.view);
      const { document } = ask(openPart);
      const { pickingFor } = view;
      const target = pickingFor && document?.steps.find((s) => s.id === pickingFor.step);
      // On a plate full of holes there is hardly a place that is not at one of them: whoever is asked for a plate means it.
      const meant: Pick | undefined =
        pickingFor?.of === "plate" && found?.kind === "hole"
          ? { kind: "plate", id: found.plate, x: 0, y: 0 }
          : found;
      if (target && meant?.kind === pickingFor.of) {
        // A corner that the step itself or a later one has made could not be found by it.
        if (meant.kind === "corner" && !ask(offeredCorners)?.has(meant.name)) return;
        const single = pickingFor.single ?? false;
        togglePick(target, pickingFor.field, nameOf(meant), single);
        if (single) {
          send(viewActions.pickingStarted(undefined));
          focusFirstField(target.id);
        }
        return;
      }
      if (!found) {
        send(viewActions.pickCleared());
        return;
      }
      if (view.drawer === "measure") {
        send(viewActions.measured(found));
        return;
      }
      const frame = pane.current!.getBoundingClientRect();
      send(
        viewActions.picked({
          pick: found,
          add: e.shiftKey,
          card: { x: e.clientX - frame.left, y: e.clientY - frame.top },
        }),
      );
    },
    [send, ask, pane],
  );
}

/** One of the three sizes of the folded part, which can be asked why. */
function FoldedSide({ build, axis }: { build: PartBuild; axis: 0 | 1 | 2 }) {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  const { min, max } = build.folded!.box;
  return (
    <WhyNumber
      text={lengthText(max[axis] - min[axis], units)}
      label="folded size"
      className="pointer-events-auto"
      why={() => whyFoldedSize(document!, build, axis)}
    />
  );
}

/** Width or height of the blank, which can be asked why. */
function BlankSide({ build, side }: { build: PartBuild; side: "width" | "height" }) {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  const sources = useBenchSources();
  return (
    <WhyNumber
      text={lengthText(build.blank![side], units)}
      label={`blank ${side}`}
      className="pointer-events-auto"
      why={() => whyBlankSize(document!, build, side)}
      {...sources}
    />
  );
}

function Head({ title, size }: { title: string; size?: ReactNode }) {
  return (
    <header className="pointer-events-none absolute inset-x-3.5 top-2 z-10 flex items-baseline justify-between gap-3">
      <h2 className="font-bold text-quiet">{title}</h2>
      {size && (
        <span className="num truncate text-quiet" data-size={title.toLowerCase()}>
          {size}
        </span>
      )}
    </header>
  );
}

/** Drag to share the width between the views; double click for halves. */
function Divider({ pane }: { pane: React.RefObject<HTMLDivElement | null> }) {
  const send = useSend();
  const split = useApp((s) => s.view.split);
  const move = (x: number) => {
    const frame = pane.current!.getBoundingClientRect();
    send(viewActions.splitMoved((x - frame.left) / frame.width));
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a splitter that is focusable and moved by keys
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Share of the folded view"
      aria-valuenow={Math.round(split * 100)}
      tabIndex={0}
      className="group relative z-20 w-px shrink-0 cursor-col-resize bg-hairline"
      onDoubleClick={() => send(viewActions.splitMoved(0.5))}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => e.buttons === 1 && move(e.clientX)}
      onKeyDown={(e) => {
        const way = { ArrowLeft: -0.02, ArrowRight: 0.02 }[e.key];
        if (way) send(viewActions.splitMoved(split + way));
      }}
    >
      <span className="absolute inset-y-0 -left-1.5 w-3 group-hover:bg-moss/15" />
    </div>
  );
}

/** Where the browser draws no WebGL 2: everything but the folded picture goes on working. */
function NoFoldedView() {
  return (
    <p className="absolute inset-x-6 top-1/3 text-center text-quiet">
      This browser cannot draw the folded part (it has no WebGL 2). The blank, the bend list and all files
      work as ever.
    </p>
  );
}

function NothingYet() {
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center">
      <div className="relative z-10 rounded-lg bg-ground px-6 py-4 text-center text-quiet">
        <svg
          width="120"
          height="70"
          viewBox="0 0 120 70"
          fill="none"
          aria-hidden="true"
          className="mx-auto mb-3 opacity-60"
        >
          <path d="M14 48 48 22h60L76 48Z" stroke="currentColor" strokeDasharray="5 4" />
        </svg>
        <p className="text-[15px] font-semibold">Nothing on the Bench yet</p>
        <p>Start with a plate: press P, or pick it on the right.</p>
      </div>
    </div>
  );
}

/** While things are picked for a step. */
function PickingHint() {
  const picking = useApp((s) => s.view.pickingFor);
  const send = useSend();
  if (!picking || picking.of === "step") return null;
  return (
    <div className="absolute bottom-14 left-1/2 z-20 flex -translate-x-1/2 items-center gap-3 rounded-lg border border-amber bg-panel px-3 py-1.5 shadow-card">
      {picking.single
        ? `Click ${picking.of === "edge" ? "an edge" : `a ${picking.of}`} in either view.`
        : `Click ${picking.of}s in either view to add or take them off.`}
      <Button kind="quiet" onClick={() => send(viewActions.pickingStarted(undefined))}>
        Done (Enter)
      </Button>
    </div>
  );
}
