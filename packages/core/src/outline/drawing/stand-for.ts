import { type DrawTool, undrawn } from "./draw-tool.ts";

const NOUNS = { line: "an edge or a bend line", arc: "an arc", circle: "a round opening" } as const;

/** A tool that lets a curve, which stands for something of the part, stand for something else that is pointed at. */
export const standForTool = (kind: string, curve: string): DrawTool => ({
  kind,
  title: "Stand for something else of the part",
  key: "",
  group: "change",
  values: [],
  stages: [{ hint: "For what of the part behind does it stand now?" }],
  draw: (into, { places: [{ caught }] }) => {
    const own = into.curves.find((c) => c.id === curve);
    if (!own || !into.isReference(curve)) return undrawn("What stood for the part has been removed.");
    if (caught?.by !== "part")
      return undrawn("Point at something of the part: its edges, bend lines and openings are drawn behind.");
    const { backdrop } = caught;
    if (backdrop.curve.kind !== own.kind)
      return undrawn(
        `${backdrop.label} is no ${own.kind}, and what was drawn stands on one. Point at ${NOUNS[own.kind]}.`,
      );
    if (!into.standFor(curve, backdrop))
      return undrawn(`There is a curve that stands for ${backdrop.label} already.`);
    return {};
  },
});
