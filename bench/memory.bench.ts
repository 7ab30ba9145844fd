// Memory: what hundreds of edits leave behind, and what a very large part takes.
import {
  createExaminer,
  createTiler,
  examinePart,
  type PartDocument,
  Receiver,
  Sender,
  tileSheet,
} from "@hillcrest/core";
import { comb, field } from "./parts.ts";
import { QUICK, tell } from "./tell.ts";

const CHORD = 0.05;
const used = () => {
  // What typed arrays held is let go of beside the collection, and counted as gone by the one after it.
  for (let i = 0; i < 3; i++) globalThis.gc?.();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1e6;
};

/**
 * What edits add to what worker and page hold, as a share of what they held after the first `begun`: until then tables
 * grow once to what comes between two collections of what is let go of.
 */
function kept(
  name: string,
  [begun, edits]: readonly [number, number],
  document: PartDocument,
  edit: (i: number) => PartDocument,
): void {
  const [examine, tile] = [createExaminer(), createTiler(CHORD)];
  const [sender, receiver] = [new Sender(), new Receiver()];
  let shown: object | undefined;
  const rebuild = (changed: PartDocument) => {
    const build = examine(changed);
    shown = receiver.unpack(structuredClone(sender.pack({ build, mesh: tile(build.sheet!) })));
  };
  rebuild(document);
  for (let i = 0; i < begun; i++) rebuild(edit(i));
  const before = used();
  for (let i = begun; i < edits + begun; i++) rebuild(edit(i));
  const after = used();
  if (!shown) throw new Error("Nothing is shown.");
  tell({
    name: `heap of worker and page after ${edits} edits of ${name}, more than before`,
    value: after / before - 1,
    most: 0.1,
    unit: "×",
    detail: `${before.toFixed(0)} MB, then ${after.toFixed(0)} MB`,
  });
}

const small = comb(40, 100);
kept("a comb", QUICK ? [120, 60] : [250, 500], small, (i) => ({
  ...small,
  steps: small.steps.map((s, k) => (k === 1 ? { ...s, length: 15 + (i % 90) / 10 } : s)),
}));
if (!QUICK) {
  const holes = field(10_000);
  const [plate] = holes.steps;
  const rows = plate.holes as readonly object[];
  kept("a plate with 10,000 holes", [20, 500], holes, (i) => ({
    ...holes,
    steps: [
      {
        ...plate,
        holes: rows.map((h, k) => (k === (i * 37) % 10_000 ? { ...h, d: String(4 + (i % 20) / 10) } : h)),
      },
    ],
  }));

  const before = used();
  const build = examinePart(field(50_000));
  const mesh = tileSheet(build.sheet!, CHORD);
  const packet = structuredClone(new Sender().pack({ build, mesh }));
  const shown = new Receiver().unpack(packet);
  const { rss } = process.memoryUsage();
  tell({
    name: "a plate with 50,000 holes, built, cut into triangles and sent: memory of the process",
    value: rss / 1e6,
    most: 1500,
    unit: "MB",
    detail: `${(used() - before).toFixed(0)} MB held, ${Object.keys(shown).length + mesh.tiles.length} records`,
  });
}
