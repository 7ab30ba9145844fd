import {
  type Finding,
  formatFixed,
  INCH,
  type PartBuild,
  type Units,
  whyBlankArea,
  whyMass,
} from "@hillcrest/core";
import type { ReactNode } from "react";
import { findingsOf, isChecking, openBuild } from "../../../state/build-slice.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useBenchSources } from "../../../state/sources.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { type DrawerTab, viewActions } from "../../../state/view-slice.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { FootTab } from "../../../ui/foot-tab.tsx";
import { WhyNumber } from "../../../ui/why-card.tsx";
import { CsvButton } from "../../csv-button.tsx";
import { BendList } from "./bend-list.tsx";
import { FindingList, FindingTools } from "./findings.tsx";
import { MeasureList } from "./measure-list.tsx";
import { OutlinePanel } from "./outline-panel.tsx";
import { ValuesTable } from "./values-table.tsx";

/** The foot: bend list and findings, with their counts when closed. */
export function Drawer() {
  const drawer = useApp((s) => s.view.drawer);
  const findings = useApp((s) => findingsOf(openBuild(s)));
  const looking = useApp((s) => {
    const { document, stopped, failed } = openBuild(s);
    const now = openPart(s).document;
    // Of what is not built yet nothing is known either.
    return isChecking(openBuild(s)) || (now !== document && stopped !== now && !failed);
  });
  // Numbers belong to the shape that is drawn; findings to what the steps say now.
  const shown = useApp((s) => openBuild(s).shown?.build);
  return (
    <section
      aria-label="Bend list, findings, measures, outlines and values"
      data-looking={looking || undefined}
      className={`flex shrink-0 flex-col border-t border-hairline bg-panel ${drawer === "closed" ? "" : "h-1/3"}`}
    >
      <header className="flex h-9 shrink-0 items-center gap-3 px-3.5">
        <Tabs
          bends={shown ? shown.bends.length + shown.rolled.length : 0}
          findings={findings}
          looking={looking}
        />
        <span className="grow" />
        {drawer === "findings" && <FindingTools findings={findings} />}
        {shown?.folded && <Totals build={shown} />}
        {drawer === "bends" && shown !== undefined && shown.bends.length > 0 && <CsvButton />}
      </header>
      {drawer === "bends" && <BendList build={shown} />}
      {drawer === "findings" && <FindingList />}
      {drawer === "measure" && <MeasureList />}
      {drawer === "outlines" && <OutlinePanel />}
      {drawer === "values" && <ValuesTable />}
    </section>
  );
}

/** What the drawer can show, each with how much of it there is. */
interface TabsProps {
  readonly bends: number;
  readonly findings: readonly Finding[];
  /** Whether they are still being looked for. */
  readonly looking: boolean;
}

function Tabs({ bends, findings, looking }: TabsProps) {
  const drawer = useApp((s) => s.view.drawer);
  const variables = useApp((s) => openPart(s).document?.variables?.length ?? 0);
  const outlines = useApp((s) => openPart(s).document?.outlines?.length ?? 0);
  const measures = useApp((s) => openPart(s).document?.measures?.length ?? 0);
  const send = useSend();
  // What is accepted comes last, and counts for nothing.
  const open = findings.filter((f) => !f.accepted);
  const worst = open[0]?.level;
  const tab = (which: DrawerTab, body: ReactNode) => (
    <FootTab name={which} open={drawer === which} onClick={() => send(viewActions.drawerChosen(which))}>
      {body}
    </FootTab>
  );
  return (
    <>
      {tab("bends", <>Bends {bends}</>)}
      {tab(
        "findings",
        <>
          Findings{" "}
          {looking ? (
            <span title="Being looked for">…</span>
          ) : (
            <>
              {worst && <FindingMark level={worst} />} {open.length}
            </>
          )}
        </>,
      )}
      {tab("measure", <>Measure {measures || ""}</>)}
      {tab("outlines", <>Outlines {outlines || ""}</>)}
      {tab("values", <>Values {variables || ""}</>)}
    </>
  );
}

/** Mass and area of the blank, each of which can be asked why. */
function Totals({ build }: { build: PartBuild }) {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  const sources = useBenchSources();
  return (
    <span className="whitespace-nowrap text-quiet">
      mass{" "}
      <WhyNumber
        text={formatFixed(build.folded?.mass ?? 0, 3)}
        label="mass"
        why={() => whyMass(document!, build)}
        {...sources}
      />{" "}
      <span className="num">kg</span> · blank area{" "}
      <WhyNumber
        text={areaText(build.blank?.area ?? 0, units)}
        label="blank area"
        why={() => whyBlankArea(document!, build)}
        {...sources}
      />
    </span>
  );
}

const areaText = (area: number, units: Units) =>
  units === "mm" ? `${formatFixed(area, 0)} mm²` : `${formatFixed(area / INCH / INCH, 2)} in²`;
