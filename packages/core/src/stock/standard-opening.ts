import type { FieldSpec } from "../fields/field.ts";
import { numberField } from "./number-field.ts";

/** An opening that a shop has a tool for. Lengths in mm. */
export interface StandardOpening {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly form: "round" | "slot" | "rectangle";
  readonly diameter?: number;
  readonly width?: number;
  readonly height?: number;
  readonly rounding?: number;
}

const limits = { above: 0, max: 2000, optional: true };

const forms = (...list: string[]) => ({
  shown: (c: Readonly<Record<string, string>>) => list.includes(c.form),
});

/** The fields of a standard opening but its name and its note. */
export const STANDARD_OPENING_FIELDS: readonly FieldSpec[] = [
  {
    kind: "choice",
    key: "form",
    label: "Form",
    default: "round",
    options: [
      { value: "round", label: "round" },
      { value: "slot", label: "slot" },
      { value: "rectangle", label: "rectangle" },
    ],
  },
  numberField("diameter", "Diameter", "length", 6, { ...limits, ...forms("round") }),
  numberField("width", "Width", "length", 20, { ...limits, ...forms("slot", "rectangle") }),
  numberField("height", "Height", "length", 6, { ...limits, ...forms("slot", "rectangle") }),
  numberField("rounding", "Corner radius", "length", 0, {
    ...limits,
    ...forms("rectangle"),
    above: undefined,
    min: 0,
  }),
];

/** The tools of a shop's that make an opening just so large, or the next larger one, smallest first. */
export function toolsFor(
  tools: readonly StandardOpening[],
  { form, diameter = 0, width = 0, height = 0, rounding = 0 }: Omit<StandardOpening, "id" | "name" | "note">,
): { readonly same: StandardOpening | undefined; readonly larger: readonly StandardOpening[] } {
  const like = tools.filter((tool) => tool.form === form);
  const near = (p: number | undefined, q: number) => Math.abs((p ?? 0) - q) < 5e-4;
  if (form === "round") {
    const sorted = like
      .filter((tool) => (tool.diameter ?? 0) > 0)
      .sort((p, q) => (p.diameter ?? 0) - (q.diameter ?? 0));
    return {
      same: sorted.find((tool) => near(tool.diameter, diameter)),
      larger: sorted.filter((tool) => (tool.diameter ?? 0) > diameter + 5e-4),
    };
  }
  const area = (tool: StandardOpening) => (tool.width ?? 0) * (tool.height ?? 0);
  return {
    same: like.find(
      (tool) =>
        near(tool.width, width) &&
        near(tool.height, height) &&
        (form === "slot" || near(tool.rounding, rounding)),
    ),
    larger: like
      .filter(
        (tool) =>
          (tool.width ?? 0) >= width - 5e-4 &&
          (tool.height ?? 0) >= height - 5e-4 &&
          area(tool) > width * height + 1e-3,
      )
      .sort((p, q) => area(p) - area(q)),
  };
}
