import { newPart, type PartDocument, type StepDocument } from "@hillcrest/core";

/** A long plate with `fingers` flanges side by side on one edge, and round holes in rows. */
export function combPart(fingers: number, holes: number): PartDocument {
  const pitch = 20;
  const width = fingers * pitch;
  const perRow = Math.ceil(holes / 4);
  const rows = Array.from({ length: holes }, (_, i) => ({
    key: `h${i}`,
    x: String(-width / 2 + ((i % perRow) + 0.5) * (width / perRow)),
    y: String(-30 + Math.floor(i / perRow) * 15),
    d: "6",
  }));
  const steps: StepDocument[] = [{ id: "s1", kind: "plate", width, depth: 100, holes: rows }];
  for (let i = 0; i < fingers; i++) {
    steps.push({
      id: `s${i + 2}`,
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      turn: i % 2 === 0 ? "up" : "down",
      length: 18 + (i % 5),
      span: "width",
      width: 12,
      at: "left",
      shift: i * pitch + 4,
      leftRelief: "round",
      leftReliefWidth: "2",
      leftReliefDepth: "1.5",
    });
  }
  return { ...newPart("Comb"), steps };
}
