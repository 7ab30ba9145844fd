import { ANGLE_UNITS, followStudy, type StudyGiven, sayLengths, sayOutside } from "@hillcrest/core";
import { useStock } from "../../state/stock.ts";
import { useApp } from "../../state/store.ts";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { PageHead } from "../../ui/page-head.tsx";
import { useTheme, useTitle } from "../../ui/theme.ts";
import { solved } from "./entered.ts";
import { Follows } from "./follows.tsx";
import { Given } from "./given.tsx";
import { OWN_K } from "./study-methods.ts";
import { StudyPlot } from "./study-plot.tsx";
import { StudySection } from "./study-section.tsx";
import { useEntered } from "./use-entered.ts";
import { UseInPart } from "./use-in-part.tsx";
import { useMethods } from "./use-methods.ts";

/** One bend's section, live: every length from thickness, radius, angle and K, and back. */
export function StudyPage() {
  useTheme();
  useStock();
  useTitle("Bend study");
  const { entered, set, origin, problem, own } = useEntered();
  const noCharts = useApp((s) => s.stock.problem);
  const methods = useMethods(own, entered.method);
  const angle =
    entered.exact?.degrees === entered.degrees ? entered.exact.angle : entered.degrees * ANGLE_UNITS.deg;
  const shape = { t: entered.t, r: entered.r, angle };
  const found = methods.find((m) => m.method === entered.method) ?? OWN_K(entered.k);
  const answer = found.find(shape);
  const given: StudyGiven = { ...shape, k: answer.k, legA: entered.legA, legB: entered.legB };
  const follows = followStudy(given);
  const setK = (k: number) => set({ k, method: "own" });
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <PageHead here="Bend study">
        <span className="grow" />
        <UseInPart origin={origin} given={given} degrees={entered.degrees} method={found} />
      </PageHead>
      {noCharts && !problem && (
        <p role="alert" className="border-b border-hairline bg-panel px-4 py-2">
          <FindingMark level="warn" /> The shop's charts cannot be read, so only K and DIN 6935 are there.{" "}
          {noCharts}
        </p>
      )}
      {problem && (
        <p role="alert" className="border-b border-hairline bg-panel px-4 py-2">
          <FindingMark level="stop" /> {problem}
        </p>
      )}
      <div className="flex min-h-0 grow">
        <div className="min-w-0 grow p-2">
          <StudySection given={given} follows={follows} onK={setK} />
        </div>
        <aside className="scroll-quiet w-[380px] shrink-0 space-y-5 overflow-auto border-l border-hairline bg-panel p-4">
          <Given entered={entered} k={answer.k} methods={methods} onSet={set} onK={setK} />
          {answer.source.outside && (
            <p data-outside>
              <FindingMark level="warn" /> {sayLengths(sayOutside(answer.source.outside))}
            </p>
          )}
          <Follows
            given={given}
            found={found}
            lines={answer.source.lines}
            onSolved={(unknown, value) => set(solved(unknown, value))}
          />
          <StudyPlot t={entered.t} r={entered.r} degrees={entered.degrees} now={found} methods={methods} />
        </aside>
      </div>
    </div>
  );
}
