import { SECTION_NOUNS, STOCK_SECTIONS, type StockItem, type StockSection } from "@hillcrest/core";
import { Plus } from "lucide-react";
import { useEffect } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { editItem, loadStock, useItems, useStock } from "../../state/stock.ts";
import { draftName, itemsNow } from "../../state/stock-slice.ts";
import { useApp, useAsk } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { PageHead } from "../../ui/page-head.tsx";
import { useTheme, useTitle } from "../../ui/theme.ts";
import { ItemEditor } from "./item-editor.tsx";
import { LibraryFiles } from "./library-files.tsx";
import { newItem, SECTION_TABS, sayItem } from "./sections.ts";
import { TakeOverBars } from "./take-over-bar.tsx";

/** The page of what a shop has: cards, charts, test bends, materials, dies and lists of thicknesses. */
export function StockPage() {
  useTheme();
  useStock();
  useTitle("Stock");
  const params = useParams();
  const known = (STOCK_SECTIONS as readonly (string | undefined)[]).includes(params.section);
  const section = (known ? params.section : "cards") as StockSection;
  const entries = useApp((s) => s.stock.entries);
  const problem = useApp((s) => s.stock.problem);
  const items = useItems(section);
  const chosen = items.find((i) => i.id === params.id) ?? (params.id ? undefined : items[0]);
  const unsaved = useApp((s) => Object.keys(s.stock.drafts).length);
  useEffect(() => {
    if (unsaved === 0) return;
    const ask = (e: BeforeUnloadEvent) => e.preventDefault();
    addEventListener("beforeunload", ask);
    return () => removeEventListener("beforeunload", ask);
  }, [unsaved]);
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <PageHead here="Stock">
        <span className="grow text-quiet" role="status" data-unsaved={unsaved}>
          {unsaved === 0
            ? ""
            : unsaved === 1
              ? "1 change is not saved yet"
              : `${unsaved} changes are not saved yet`}
        </span>
        <LibraryFiles />
      </PageHead>
      <SectionTabs section={section} />
      <TakeOverBars />
      {problem && (
        <p role="alert" className="flex items-center gap-3 border-b border-hairline bg-panel px-4 py-2">
          <FindingMark level="stop" /> {problem}
          <Button kind="quiet" onClick={() => void loadStock()}>
            Try again
          </Button>
        </p>
      )}
      <div className="flex min-h-0 grow">
        <ItemList section={section} items={items} chosen={chosen?.id} />
        <main className="scroll-quiet min-w-0 grow overflow-auto">
          {chosen ? (
            <ItemEditor key={draftName(section, chosen.id)} section={section} item={chosen} />
          ) : (
            <p className="p-8 text-quiet">
              {!entries
                ? "Looking through the stock…"
                : params.id
                  ? `This shop's stock has no such ${SECTION_NOUNS[section]}. A part from elsewhere carries its own.`
                  : `There is no ${SECTION_NOUNS[section]} yet. Make one with “New”.`}
            </p>
          )}
        </main>
      </div>
    </div>
  );
}

function SectionTabs({ section }: { section: StockSection }) {
  const stock = useApp((s) => s.stock);
  return (
    <nav
      aria-label="Sections"
      className="flex h-9 shrink-0 items-stretch gap-5 border-b border-hairline bg-panel px-4"
    >
      {SECTION_TABS.map((tab) => (
        <Link
          key={tab.section}
          to={`/stock/${tab.section}`}
          aria-current={tab.section === section ? "page" : undefined}
          className={`flex items-center gap-1.5 border-b-2 px-0.5 ${tab.section === section ? "border-moss font-bold" : "border-transparent text-quiet hover:text-ink"}`}
        >
          {tab.title}
          <span className="num font-normal text-quiet">{itemsNow(stock, tab.section).length || ""}</span>
        </Link>
      ))}
    </nav>
  );
}

interface ItemListProps {
  readonly section: StockSection;
  readonly items: readonly StockItem[];
  readonly chosen?: string;
}

function ItemList({ section, items, chosen }: ItemListProps) {
  const navigate = useNavigate();
  const ask = useAsk();
  const drafts = useApp((s) => s.stock.drafts);
  const entries = useApp((s) => s.stock.entries);
  const charts = useItems("charts");
  const nameOf = (id: string) => charts.find((c) => c.id === id)?.name ?? "no chart";
  const add = () => {
    const item = newItem(
      section,
      (s) =>
        itemsNow(
          ask(({ stock }) => stock),
          s,
        )[0]?.id ?? "",
    );
    editItem(section, item as StockItem);
    navigate(`/stock/${section}/${item.id}`);
  };
  return (
    <aside className="flex w-[272px] shrink-0 flex-col border-r border-hairline bg-panel">
      <ul className="scroll-quiet min-h-0 grow overflow-auto py-1.5">
        {items.map((item) => {
          const rows = entries?.find((e) => e.section === section && e.item.id === item.id)?.rows;
          const draft = drafts[draftName(section, item.id)] !== undefined;
          return (
            <li key={item.id}>
              <Link
                to={`/stock/${section}/${item.id}`}
                aria-current={item.id === chosen ? "true" : undefined}
                data-item={item.name}
                className={`block border-l-[3px] px-3.5 py-1.5 ${item.id === chosen ? "border-moss bg-moss-soft" : "border-transparent hover:bg-moss-soft/50"}`}
              >
                <span className="flex items-baseline gap-1.5">
                  <span className="truncate font-semibold" title={item.name}>
                    {item.name || "without a name"}
                  </span>
                  {draft && (
                    <span className="ml-auto shrink-0 text-[11px] text-warn" title="Not saved yet">
                      not saved
                    </span>
                  )}
                </span>
                <span className="line-clamp-2 text-[12px] leading-snug text-quiet">
                  {sayItem(section, item, nameOf, draft ? undefined : rows)}
                </span>
              </Link>
            </li>
          );
        })}
      </ul>
      <div className="border-t border-hairline p-2.5">
        {section === "groups" ? (
          <p className="text-[12px] leading-snug text-quiet">
            A group is kept on the Bench: open a step, and choose “Keep” beneath it.
          </p>
        ) : (
          <Button className="w-full" onClick={add} data-new={section}>
            <Plus size={15} /> New {SECTION_NOUNS[section]}
          </Button>
        )}
      </div>
    </aside>
  );
}
