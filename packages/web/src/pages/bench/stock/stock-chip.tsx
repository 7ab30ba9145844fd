import {
  cardOf,
  choicesOf,
  STOCK_FIELDS,
  type StockRemark,
  sayLength,
  stockRaw,
  typedText,
} from "@hillcrest/core";
import { openBuild } from "../../../state/build-slice.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useStock } from "../../../state/stock.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { viewActions } from "../../../state/view-slice.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { Popover } from "../../../ui/popover.tsx";
import { StockCardForm } from "./stock-card-form.tsx";

const NO_REMARKS: readonly StockRemark[] = [];

/** What the part is cut from: said in a chip, changed in the card behind it. */
export function StockChip() {
  const raw = useApp((s) => openPart(s).document!.stock);
  const units = useUnits();
  const open = useApp((s) => s.view.stockOpen);
  const send = useSend();
  const setOpen = (shown: boolean) => void send(viewActions.stockShown(shown));
  const stock = useApp((s) => openBuild(s).latest?.stock);
  const told = useApp((s) => openBuild(s).latest?.stockRemarks ?? NO_REMARKS);
  const problems = told.filter((r) => r.level === "stop");
  const remarks = told.filter((r) => r.level !== "stop");
  const card = cardOf(raw);
  const values = stockRaw(raw);
  const choices = choicesOf(STOCK_FIELDS, values);
  const flat = {
    K: `K ${typedText(STOCK_FIELDS.find((f) => f.key === "k") as never, values)}`,
    "DIN 6935": "DIN 6935",
    card: card?.chart.name,
  }[choices.flatBy as "K"];
  const marked = remarks.length > 0;
  useStock();
  const revision = useApp(
    (s) => s.stock.entries?.find((e) => e.section === "cards" && e.item.id === card?.id)?.revision,
  );
  const newer = card !== undefined && revision !== undefined && revision > card.revision;
  return (
    <Popover
      label="Stock"
      align="center"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          type="button"
          data-stock
          title={marked ? remarks.map((r) => r.message).join("\n") : "The stock that this part is cut from"}
          className={`max-w-full truncate rounded-full border px-3.5 py-1 hover:border-moss ${problems.length > 0 ? "border-stop text-stop" : "border-hairline bg-ground"}`}
        >
          {problems.length > 0 && <FindingMark level="stop" />}
          {problems.length === 0 && marked && <FindingMark level={remarks[0].level} />}{" "}
          {card ? card.name : choices.material || "No material named"}{" "}
          {stock && (
            <>
              {!card && <span className="num">{sayLength(stock.thickness, units)} </span>}
              <span className="whitespace-nowrap">
                · radius <span className="num">{sayLength(stock.radius, units)}</span>
              </span>{" "}
              · <span className="num">{flat}</span>
            </>
          )}
          {newer && (
            <span
              className="ml-2 rounded-full bg-amber-soft px-1.5 text-[12px]"
              title="The card was changed since"
            >
              newer card
            </span>
          )}
        </button>
      }
    >
      <StockCardForm raw={raw} problems={problems} onLeave={() => setOpen(false)} />
    </Popover>
  );
}
