// What an edit costs of a whole build: only what changed is built, looked at, cut into triangles and sent again.
import {
  createExaminer,
  createTiler,
  examinePart,
  type PartDocument,
  packetBytes,
  Sender,
  type StepDocument,
  tileSheet,
} from "@hillcrest/core";
import { median, spent } from "./compare.ts";
import { comb, dimples, field, perforation } from "./parts.ts";
import { QUICK, tell } from "./tell.ts";

const CHORD = 0.05;
const EDITS = QUICK ? 7 : 15;

function edits(name: string, most: number, document: PartDocument, edit: (i: number) => PartDocument): void {
  const wholes = Array.from({ length: QUICK ? 2 : 3 }, () =>
    spent(() => void tileSheet(examinePart(structuredClone(document)).sheet!, CHORD)),
  );
  const [examine, tile, sender] = [createExaminer(), createTiler(CHORD), new Sender()];
  const once = (changed: PartDocument) => {
    const build = examine(changed);
    return { build, mesh: tile(build.sheet!) };
  };
  sender.pack(once(document));
  const took: number[] = [];
  let bytes = 0;
  for (let i = 0; i < EDITS; i++) {
    const changed = edit(i);
    let result: object = {};
    took.push(
      spent(() => {
        result = once(changed);
      }),
    );
    bytes = packetBytes(sender.pack(result));
  }
  const [whole, one] = [median(wholes), median(took.slice(2))];
  const detail = `${one.toFixed(1)} ms of ${whole.toFixed(0)} ms; ${(bytes / 1000).toFixed(0)} kB to the page`;
  tell({ name: `${name}, of a whole build`, value: one / whole, most, unit: "×", detail });
}

const holes = field(10_000);
const [plate] = holes.steps;
const rows = plate.holes as readonly { readonly x: string }[];
edits("one of 10,000 holes moved", 0.1, holes, (i) => ({
  ...holes,
  steps: [
    {
      ...plate,
      holes: rows.map((h, k) => (k === 5050 ? { ...h, x: String(Number(h.x) + (i + 1) / 20) } : h)),
    },
  ],
}));

if (!QUICK) {
  edits("a flange of a plate with 4,900 dimples changed", 0.1, dimples(4900), (i) =>
    dimples(4900, String(20 + i / 10)),
  );
  edits("a flange of a plate that is filled with 10,000 openings changed", 0.05, perforation(10_000), (i) =>
    perforation(10_000, String(20 + i / 10)),
  );
}

const teeth = comb(200);
const changed = (at: number) => (i: number) => ({
  ...teeth,
  steps: teeth.steps.map((s, k): StepDocument => (k === at ? { ...s, length: 20 + i / 10 } : s)),
});
edits("the last of 200 flanges changed", 0.05, teeth, changed(200));
edits("the first of 200 flanges changed", 0.4, teeth, changed(1));
