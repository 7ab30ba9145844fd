// How cost grows with a part: the exponent of the processor's time over sizes that double, and large parts against the
// least that they can cost.
import { buildPart, examinePart, meshSheet, type PartDocument } from "@hillcrest/core";
import { compare, growth } from "./compare.ts";
import { floorOf } from "./floor.ts";
import { chain, comb, dimples, field, perforation, row } from "./parts.ts";
import { QUICK } from "./tell.ts";

const CHORD = 0.05;

const whole = (made: (n: number) => PartDocument) => (n: number) => {
  const document = made(n);
  return () => void meshSheet(examinePart({ ...document }).sheet!, CHORD);
};
growth("flanges on one edge: build, checks and mesh", 1.15, [250, 500, 1000, 1999], whole(comb));
growth("flanges, each on the last: the same", 1.15, [250, 500, 1000, 1999], whole(chain));
growth("holes in one plate: the same", 1.15, [1000, 4000, 16_000, 50_000], whole(field));
if (!QUICK) {
  growth("a plate filled by one cut: the same", 1.15, [1000, 4000, 16_000, 50_000], whole(perforation));
  growth("dimples formed out of one plate: the same", 1.15, [256, 1024, 2500, 4900], whole(dimples));
  growth(
    "places of a pattern beside a bend held flat: the same",
    1.15,
    [250, 500, 1000, 1900],
    whole((n) => row(n, true)),
  );
  growth(
    "places of a pattern across a bend held flat: the same",
    1.15,
    [100, 200, 400, 800],
    whole((n) => row(n, true, true)),
  );
}

const against = (name: string, most: number, document: PartDocument, rounds: number) => {
  const floor = floorOf(buildPart(document).sheet!);
  compare(
    `${name}: build + mesh against strips + union of the same loops`,
    most,
    floor,
    () => void meshSheet(buildPart({ ...document }).sheet!, CHORD),
    rounds,
  );
};
against("200 flanges on one edge", 4, comb(200), QUICK ? 2 : 5);
/**
 * The same flanges, each on a part of its own: what reading a step, bending, merging and meshing cost where nothing else is
 * there. See docs/decisions/where-the-time-of-a-chain-goes.md.
 */
const againstSingle = (name: string, n: number, made: (n: number) => PartDocument) => {
  const [all, one] = [made(n), made(1)];
  const built = (document: PartDocument) => void meshSheet(buildPart({ ...document }).sheet!, CHORD);
  compare(
    `${name}: build + mesh against ${n} parts of one flange`,
    1,
    () => {
      for (let i = 0; i < n; i++) built(one);
    },
    () => built(all),
    QUICK ? 2 : 5,
  );
};
againstSingle("500 flanges, each on the last", 500, chain);
againstSingle("800 flanges on one edge", 800, comb);
if (!QUICK) against("800 flanges on one edge", 4, comb(800), 3);
against("a plate with 10,000 holes", 1.5, field(10_000), QUICK ? 2 : 3);
if (!QUICK) {
  against("a plate that one cut fills with 10,000 openings", 1.5, perforation(10_000), 3);
  const [held, free] = [row(1000, true), row(1000, false)];
  compare(
    "a pattern of 1,000 places beside a bend held flat, against the same where none is held",
    1.5,
    () => void examinePart({ ...free }),
    () => void examinePart({ ...held }),
  );
}
