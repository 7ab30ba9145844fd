import {
  type BendChart,
  chartWarnings,
  type Die,
  type ExportPreset,
  type FormItem,
  itemProblems,
  type KeptGroup,
  type KeptOutline,
  type Material,
  SECTION_NOUNS,
  type ShopRuleSet,
  type StockCard,
  type StockItem,
  type StockSection,
  type TestBends,
} from "@hillcrest/core";
import { Copy, Trash2 } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { stockApi } from "../../api/stock-api.ts";
import { editItem, freshItemId } from "../../state/stock.ts";
import { draftName, stockActions } from "../../state/stock-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { UndoButtons } from "../../ui/undo-buttons.tsx";
import { CardDetails } from "./card-details.tsx";
import { ChartEditor } from "./chart-editor.tsx";
import { DieDetails, MaterialDetails } from "./die-details.tsx";
import { FormDetails } from "./form-details.tsx";
import { GroupDetails } from "./group-details.tsx";
import { ImpactDialog } from "./impact-dialog.tsx";
import { ItemForm } from "./item-form.tsx";
import { KeptDetails } from "./kept-details.tsx";
import { PresetDetails } from "./preset-details.tsx";
import { RulesEditor } from "./rules-editor.tsx";
import { TestBendsEditor } from "./test-bends-editor.tsx";
import { useItemKeys, useItemSaving } from "./use-item-saving.ts";

interface ItemEditorProps {
  readonly section: StockSection;
  readonly item: StockItem;
}

/** One item of the stock, edited in place and saved as a whole. */
export function ItemEditor({ section, item }: ItemEditorProps) {
  const name = draftName(section, item.id);
  const entry = useApp((s) => s.stock.entries?.find((e) => e.section === section && e.item.id === item.id));
  const draft = useApp((s) => s.stock.drafts[name]);
  const shortened = useWholeTable(section, item, entry?.rows);
  const set = (next: StockItem, mark?: string) => editItem(section, next, mark);
  if (shortened) return <p className="p-8 text-quiet">Reading the whole table…</p>;
  return (
    <div className="px-6 py-5" data-editor={item.name}>
      <EditorHead section={section} item={item} revision={entry?.revision} unsaved={draft !== undefined} />
      <div
        className={
          section === "testBends" || section === "charts"
            ? ""
            : `flex flex-wrap gap-y-6 ${section === "forms" ? "gap-x-6" : "gap-x-12"}`
        }
      >
        {section === "charts" ? (
          <ChartEditor chart={item as BendChart} onChange={set} />
        ) : section === "testBends" ? (
          <TestBendsEditor set={item as TestBends} onChange={set} />
        ) : section === "rules" ? (
          <RulesEditor set={item as ShopRuleSet} onChange={set} />
        ) : (
          <ItemForm section={section} item={item} onChange={set} wide={section === "forms"} />
        )}
        {section === "cards" && <CardDetails card={item as StockCard} onChange={set} />}
        {section === "outlines" && <KeptDetails kept={item as KeptOutline} onChange={set} />}
        {section === "forms" && <FormDetails form={item as FormItem} onChange={set} />}
        {section === "groups" && <GroupDetails group={item as KeptGroup} onChange={set} />}
        {section === "presets" && <PresetDetails preset={item as ExportPreset} onChange={set} />}
        {section === "dies" && <DieDetails die={item as Die} />}
        {section === "materials" && <MaterialDetails material={item as Material} />}
      </div>
    </div>
  );
}

/** Very long tables are left out of the list: the open one is read by itself. True while it is not there. */
function useWholeTable(section: StockSection, item: StockItem, rows: number | undefined): boolean {
  const send = useSend();
  const short =
    rows !== undefined &&
    rows > 0 &&
    "rule" in item &&
    item.rule.method === "table" &&
    item.rule.rows.length === 0;
  const { id } = item;
  useEffect(() => {
    if (!short) return;
    let left = false;
    stockApi
      .read(section, id)
      .then((entry) => !left && send(stockActions.entryRead(entry)))
      .catch((error) => !left && send(stockActions.stockFailed((error as Error).message)));
    return () => {
      left = true;
    };
  }, [short, section, id, send]);
  return short;
}

interface EditorHeadProps extends ItemEditorProps {
  readonly revision?: number;
  readonly unsaved: boolean;
}

function EditorHead({ section, item, revision, unsaved }: EditorHeadProps) {
  const saving = useItemSaving(section, item, revision);
  const { told, impact, doing, save } = saving;
  useItemKeys(section, item.id, save);
  const problems = useMemo(() => itemProblems(section, item), [section, item]);
  const warnings = useMemo(
    () => (section === "charts" && problems.length === 0 ? chartWarnings(item as BendChart) : []),
    [section, item, problems],
  );
  return (
    <header className="mb-4">
      <div className="flex items-center gap-1.5">
        <h2 className="mr-2 min-w-0 truncate text-[18px] font-bold" title={item.name}>
          {item.name || "without a name"}
        </h2>
        <span className="grow whitespace-nowrap text-quiet">
          {SECTION_NOUNS[section]}
          {revision === undefined ? ", new" : `, revision ${revision}`}
        </span>
        <ItemActions
          section={section}
          item={item}
          revision={revision}
          unsaved={unsaved}
          remove={saving.remove}
        />
        <Button
          kind="primary"
          disabled={!unsaved || doing !== undefined}
          data-save
          title={unsaved ? "Save (Ctrl + S)" : "Nothing has been changed"}
          onClick={save}
        >
          {doing ?? "Save"}
        </Button>
      </div>
      {told && (
        <p role="alert" className="mt-2">
          <FindingMark level="stop" /> {told}
        </p>
      )}
      {unsaved && problems.length > 0 && <Remarks level="stop" lines={problems.map((p) => p.message)} />}
      {warnings.length > 0 && <Remarks level="warn" lines={warnings} />}
      {impact && impact.parts.length > 0 && (
        <ImpactDialog
          what={item.name}
          impact={impact}
          onClose={saving.forget}
          onSave={(chosen) => void saving.store(chosen)}
        />
      )}
      <StaleDialog message={saving.stale?.message} onSettle={saving.settle} />
    </header>
  );
}

/** What can be done with an item besides saving it. */
function ItemActions({ section, item, revision, unsaved, remove }: EditorHeadProps & { remove: () => void }) {
  const name = draftName(section, item.id);
  const draft = useApp((s) => s.stock.drafts[name]);
  const send = useSend();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const copy = () => {
    const title = `${item.name} (copy)`.slice(0, 100);
    const id = freshItemId(section, title);
    editItem(section, { ...item, id, name: title });
    navigate(`/stock/${section}/${id}`);
  };
  return (
    <>
      <UndoButtons
        canUndo={!!draft?.trail.past.length}
        canRedo={!!draft?.trail.future.length}
        onUndo={() => send(stockActions.itemUndone(name))}
        onRedo={() => send(stockActions.itemRedone(name))}
      />
      <Button kind="icon" aria-label="Copy" title="Copy" onClick={copy}>
        <Copy size={15} />
      </Button>
      <Button kind="icon" aria-label="Remove" title="Remove" onClick={() => setAsking(true)}>
        <Trash2 size={15} />
      </Button>
      {unsaved && (
        <Button
          onClick={() => {
            send(stockActions.draftDropped(name));
            if (revision === undefined) navigate(`/stock/${section}`);
          }}
        >
          Discard changes
        </Button>
      )}
      <Dialog
        open={asking}
        onClose={() => setAsking(false)}
        title={`Remove “${item.name}”?`}
        actions={
          <>
            <Button onClick={() => setAsking(false)}>Keep it</Button>
            <Button
              kind="danger"
              onClick={() => {
                setAsking(false);
                remove();
              }}
            >
              Remove
            </Button>
          </>
        }
      >
        Parts that were made with it keep their own copy and stay as they are. Export the library first if you
        may want it back.
      </Dialog>
    </>
  );
}

interface StaleDialogProps {
  /** What was saved elsewhere; nothing while nothing was. */
  readonly message?: string;
  readonly onSettle: (keep: "mine" | "theirs" | "open") => void;
}

/** When the item was saved elsewhere meanwhile: go on from that, with the own changes or without. */
const StaleDialog = ({ message, onSettle }: StaleDialogProps) => (
  <Dialog
    open={message !== undefined}
    onClose={() => onSettle("open")}
    title="Saved elsewhere too"
    actions={
      <>
        <Button onClick={() => onSettle("theirs")}>Take what is there</Button>
        <Button kind="primary" onClick={() => onSettle("mine")}>
          Keep my changes
        </Button>
      </>
    }
  >
    {message} Keep your changes to look at them again and save them on top of it.
  </Dialog>
);

const MOST_SHOWN = 6;

function Remarks({ level, lines }: { level: "stop" | "warn"; lines: readonly string[] }) {
  return (
    <ul className="mt-2 space-y-0.5" data-remarks={level}>
      {lines.slice(0, MOST_SHOWN).map((l) => (
        <li key={l}>
          <FindingMark level={level} /> {l}
        </li>
      ))}
      {lines.length > MOST_SHOWN && <li className="text-quiet">… and {lines.length - MOST_SHOWN} more</li>}
    </ul>
  );
}
