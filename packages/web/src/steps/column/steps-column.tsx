import {
  type Finding,
  isFollowed,
  moveProblem,
  type PartDocument,
  type StepDocument,
  stepKind,
} from "@hillcrest/core";
import { Fragment, useCallback, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { findingsOf, openBuild } from "../../state/build-slice.ts";
import { edit, setPartValues } from "../../state/edits.ts";
import { useLabels, useNames } from "../../state/labels.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { AddStep } from "./add-step.tsx";
import { useHeldRow } from "./held-row.ts";
import { isAlwaysWhole, useRowsInSight } from "./rows-in-sight.ts";
import { StepRow } from "./step-row.tsx";
import { useTypedFindings } from "./typed-findings.tsx";

const NO_FINDINGS: readonly Finding[] = [];

/** The ordered list of what was done, with the bookmark and a way to add more. */
export function StepsColumn() {
  const document = useApp((s) => openPart(s).document)!;
  const latest = useApp((s) => openBuild(s).latest);
  const openStep = useApp((s) => s.view.openStep);
  const [removing, setRemoving] = useState<{ step: StepDocument; hangers: readonly StepDocument[] }>();
  const labels = useLabels();
  const names = useNames();
  const outcomes = useMemo(() => new Map(latest?.steps.map((s) => [s.id, s])), [latest]);
  const found = useApp((s) => findingsOf(openBuild(s)));
  const findings = useMemo(() => {
    const map = new Map<string, Finding[]>();
    for (const f of found) if (f.step) map.set(f.step, [...(map.get(f.step) ?? []), f]);
    return map;
  }, [found]);

  const { move, drop, dragged, setDragged, over, setOver, endDrag, refusal, setRefusal } =
    useMoving(document);
  const askRemoval = useCallback(
    (step: StepDocument, hangers: readonly StepDocument[]) => setRemoving({ step, hangers }),
    [],
  );
  const typed = useTypedFindings();
  const column = useRef<HTMLDivElement>(null);
  useHeldRow(column, dragged !== undefined);
  const sight = useRowsInSight(column);
  const built = document.steps.filter((s) => outcomes.get(s.id)?.state === "built").length;
  return (
    <aside aria-label="Steps" className="flex h-full flex-col border-l border-hairline bg-panel">
      <header className="flex h-[34px] shrink-0 items-center justify-between border-b border-hairline px-3.5 font-bold text-quiet">
        <span>Steps</span>
        <span className="num font-medium">
          {built} of {document.steps.length}
        </span>
      </header>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: keys for the step that has the focus */}
      <div
        ref={column}
        className="scroll-quiet grow overflow-auto [overflow-anchor:none]"
        {...typed.handlers}
        onKeyDown={(e) => {
          const way = { ArrowUp: -1, ArrowDown: 1 }[e.key];
          if (!e.altKey || !way || !openStep) return;
          e.preventDefault();
          move(openStep, document.steps.findIndex((s) => s.id === openStep) + way);
        }}
      >
        <div>
          {document.follows && <Followed document={document} />}
          {document.steps.map((step, i) =>
            isFollowed(document, i) ? null : (
              <Fragment key={step.id}>
                <Gap index={i} dragged={dragged} over={over} onOver={setOver} onDrop={drop} />
                <StepRow
                  step={step}
                  number={i + 1}
                  stock={latest?.stock}
                  labels={labels}
                  names={names}
                  outcome={outcomes.get(step.id)}
                  findings={findings.get(step.id) ?? NO_FINDINGS}
                  open={openStep === step.id}
                  units={document.units ?? "mm"}
                  last={i === document.steps.length - 1}
                  builtToHere={document.builtTo === step.id}
                  whole={isAlwaysWhole(i, document.steps.length)}
                  sight={sight}
                  onRemove={askRemoval}
                  onDragStart={setDragged}
                  onDragEnd={endDrag}
                />
              </Fragment>
            ),
          )}
          <Gap index={document.steps.length} dragged={dragged} over={over} onOver={setOver} onDrop={drop} />
          {refusal && <Refusal text={refusal} onClose={() => setRefusal(undefined)} />}
          <AddStep />
        </div>
      </div>
      {typed.told}
      <RemoveDialog removing={removing} onClose={() => setRemoving(undefined)} />
    </aside>
  );
}

/** Moving steps by dragging or by keys, and what keeps one from moving. */
function useMoving(document: PartDocument) {
  const [dragged, setDragged] = useState<string>();
  const [over, setOver] = useState<number>();
  const [refusal, setRefusal] = useState<string>();
  const clamped = (to: number) => Math.max(0, Math.min(to, document.steps.length - 1));
  const move = (id: string, to: number) => {
    const problem = moveProblem(document, id, to);
    setRefusal(problem);
    if (!problem) edit({ do: "move", step: id, to: clamped(to) }, { step: id });
  };
  const drop = (gap: number) => {
    setOver(undefined);
    setDragged(undefined);
    if (!dragged) return;
    const from = document.steps.findIndex((s) => s.id === dragged);
    move(dragged, gap > from ? gap - 1 : gap);
  };
  const endDrag = useCallback(() => {
    setDragged(undefined);
    setOver(undefined);
  }, []);
  return { move, drop, dragged, setDragged, over, setOver, endDrag, refusal, setRefusal };
}

/** Why a step cannot stand where it was put. */
const Refusal = ({ text, onClose }: { text: string; onClose: () => void }) => (
  <p role="alert" className="mx-3 mt-2 rounded bg-amber-soft px-2 py-1.5 leading-snug">
    {text}{" "}
    <button type="button" className="font-semibold text-moss" onClick={onClose}>
      All right
    </button>
  </p>
);

/** The steps that are another part's: said in one line, changed over there. */
function Followed({ document }: { document: PartDocument }) {
  const { follows } = document;
  const send = useSend();
  if (!follows) return null;
  const text = follows.steps === 1 ? "Step 1 is" : `Steps 1 to ${follows.steps} are`;
  return (
    <div data-follows className="border-b border-hairline bg-ground px-3.5 py-2.5 leading-snug">
      <p>
        {text} those of <b>{follows.name}</b>. What changes there comes along when this part is opened.
      </p>
      <div className="mt-1 flex gap-4 text-[12.5px]">
        <Link
          className="font-semibold text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          to={`/parts/${follows.part}`}
        >
          Open it
        </Link>
        <button
          type="button"
          className="text-quiet hover:text-ink"
          onClick={() => {
            setPartValues({ follows: undefined });
            send(viewActions.stepOpened(undefined));
          }}
        >
          Stop following
        </button>
      </div>
    </div>
  );
}

interface GapProps {
  readonly index: number;
  readonly dragged?: string;
  readonly over?: number;
  readonly onOver: (index: number) => void;
  readonly onDrop: (index: number) => void;
}

/** Where a dragged step can be let go. */
function Gap({ index, dragged, over, onOver, onDrop }: GapProps) {
  if (!dragged) return null;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keyboard moves steps with Alt and the arrow keys
    <div
      data-gap={index}
      className="relative z-10 -my-2 h-4"
      onDragOver={(e) => {
        e.preventDefault();
        onOver(index);
      }}
      onDrop={(e) => {
        e.preventDefault();
        onDrop(index);
      }}
    >
      <div className={`absolute inset-x-2 top-[7px] h-[2px] rounded ${over === index ? "bg-amber" : ""}`} />
    </div>
  );
}

function RemoveDialog({
  removing,
  onClose,
}: {
  removing?: { step: StepDocument; hangers: readonly StepDocument[] };
  onClose: () => void;
}) {
  const document = useApp((s) => openPart(s).document)!;
  const number = (s: StepDocument) => document.steps.findIndex((o) => o.id === s.id) + 1;
  const title = (s: StepDocument) => `${number(s)} ${stepKind(s.kind)?.title ?? s.kind}`;
  return (
    <Dialog
      open={removing !== undefined}
      onClose={onClose}
      title={removing ? `Remove ${title(removing.step)}?` : ""}
      actions={
        <>
          <Button onClick={onClose}>Keep it</Button>
          <Button
            kind="danger"
            onClick={() => {
              edit({ do: "remove", step: removing!.step.id });
              onClose();
            }}
          >
            Remove all of it
          </Button>
        </>
      }
    >
      <p className="mb-1">What hangs on it goes too, or loses the edges it stood on:</p>
      <ul className="list-disc pl-5">
        {removing?.hangers.map((s) => (
          <li key={s.id}>{title(s)}</li>
        ))}
      </ul>
      <p className="mt-2 text-quiet">Undo brings it back.</p>
    </Dialog>
  );
}
