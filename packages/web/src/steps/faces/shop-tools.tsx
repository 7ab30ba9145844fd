import { type StandardOpening, shortLength, toolsFor } from "@hillcrest/core";
import { setStepValues } from "../../state/edits.ts";
import { useItems } from "../../state/stock.ts";
import { useUnits } from "../../state/units.ts";
import type { FieldContext } from "./step-face.ts";

/** So many larger tools are offered. */
const OFFERED = 3;

const valuesOf = ({ form, diameter, width, height, rounding }: StandardOpening) =>
  form === "round"
    ? { sized: "diameter", diameter: String(diameter) }
    : {
        width: String(width),
        height: String(height),
        ...(form === "rectangle" ? { rounding: String(rounding ?? 0) } : {}),
      };

/** Whether the shop has a tool for an opening, and the next larger ones to take instead. */
export function ShopTools({ context: { step, values } }: { context: FieldContext }) {
  const tools = useItems("openings");
  const units = useUnits();
  const { form = "rectangle", sized = "diameter" } = values?.choices ?? {};
  const fits = form === "slot" || form === "rectangle" || (form === "round" && sized === "diameter");
  if (!values || !fits || tools.length === 0) return null;
  const { diameter, width, height, rounding } = values.quantities;
  const { same, larger } = toolsFor(tools, {
    form: form as StandardOpening["form"],
    diameter,
    width,
    height,
    rounding,
  });
  if (same)
    return (
      <p data-shop-tool className="mt-1 text-[12px] text-quiet">
        a tool of the shop: {same.name}
      </p>
    );
  const size = (t: StandardOpening) =>
    t.form === "round"
      ? `⌀ ${shortLength(t.diameter ?? 0, units)}`
      : `${shortLength(t.width ?? 0, units)} × ${shortLength(t.height ?? 0, units)}`;
  return (
    <p data-shop-tool className="mt-1 text-[12px] leading-snug text-quiet">
      no tool of the shop
      {larger.length > 0 && ", next larger: "}
      {larger.slice(0, OFFERED).map((tool) => (
        <button
          key={tool.id}
          type="button"
          data-take-tool={tool.id}
          title={`Make it as ${tool.name}`}
          className="mr-1.5 font-semibold text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          onClick={() => setStepValues(step.id, valuesOf(tool))}
        >
          {size(tool)}
        </button>
      ))}
    </p>
  );
}
