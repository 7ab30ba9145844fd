import type { Measured, Meeting, Searched, StuckBend, TightGap } from "../collision/search.ts";
import type { PartBuild } from "../part/build.ts";
import { legReach } from "../sheet/leg-reach.ts";
import type { Bend } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf, type Piece, platesOf, type Sheet } from "../sheet/sheet.ts";
import { type Finding, shownPiece } from "../steps/finding.ts";
import { formatFixed, formatShort } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import { mendLength } from "./leg-length.ts";

/** More collisions than this are told in one sentence. */
const MOST_TOLD = 40;

const NAMES: { readonly [K in Piece["kind"]]: (piece: Extract<Piece, { kind: K }>, sheet: Sheet) => string } =
  {
    plate: ({ letter }) => `plate ${letter}`,
    bend: ({ number }) => `bend ${number}`,
    cone: ({ parent, child }, sheet) => {
      const letters = new Map(platesOf(sheet).map(({ id, letter }) => [id, letter]));
      return `the rolled wall between plates ${letters.get(parent) ?? "?"} and ${letters.get(child) ?? "?"}`;
    },
    rib: ({ bend }) => `the gusset on bend ${bend.number}`,
    formed: ({ title, host }, sheet) =>
      `the ${title.toLowerCase()} on plate ${platesOf(sheet).find(({ id }) => id === host)?.letter ?? "?"}`,
  };

const named = (sheet: Sheet, i: number): string => {
  const piece = sheet.pieces[i];
  return (NAMES[piece.kind] as (piece: Piece, sheet: Sheet) => string)(piece, sheet);
};

const percent = (share: number): string =>
  `${formatFixed(share * 100, share > 0.995 && share < 1 ? 1 : 0)} %`;

/** Where on the way it begins, as the end of a sentence. */
function since({ at }: Meeting): string {
  if (at === 0) return ", from the flat on";
  return at > 1 - 1e-6 ? " when folded" : `, from ${percent(at)} of folding on`;
}

function sayMeeting(sheet: Sheet, meeting: Meeting): string {
  const { a, b, at, full, measured } = meeting;
  const [first, second] = [named(sheet, a), named(sheet, b)];
  const capital = first[0].toUpperCase() + first.slice(1);
  if (!full) {
    const deep = measured ? `, up to ${mm(measured.depth, 2)} deep` : "";
    const where = at === 0 ? "from the flat on" : `at ${percent(at)} of folding`;
    return `${capital} and ${second} meet on the way, ${where}${deep}, and are free at the end, when all bends turn together: whether it can be folded depends on the order of bends.`;
  }
  if (!measured) return `${capital} stands in ${second}${since(meeting)}.`;
  const { depth, volume } = measured;
  const shared = volume === undefined ? "" : `; they share ${formatShort(volume, 2)} mm³`;
  return `${capital} stands ${mm(depth, 2)} deep in ${second}${since(meeting)}${shared}. Shorten, lean or move one of them so that they are ${mm(depth, 2)} further apart.`;
}

/** The least change of a leg's length after which two pieces stand in one another no longer. */
function mendOf(build: PartBuild, measured: Measured | undefined): Pick<Finding, "mend"> {
  for (const { bend: id, by, own } of measured?.lengths ?? []) {
    const bend = bendsOf(build.sheet).find((b) => b.id === id);
    const leg = bend && platesOf(build.sheet).find((p) => p.id === bend.child);
    // A leg of nothing is no way out, nor is one cut back from under what hangs on it.
    if (!leg || (own && build.sheet!.pieces.some((s) => "parent" in s && s.parent === leg.id))) continue;
    if (!isPlain(build, bend) || legReach(leg, bend, "child") + by < LEAST_LEG) continue;
    const { mend } = mendLength(build, bend, by, true);
    const title = `${by < 0 ? "Shorten" : "Lengthen"} plate ${leg.letter} by ${mm(Math.abs(by))}`;
    if (mend) return { mend: { ...mend, title } };
  }
  return {};
}

/** What must be left of a leg that is shortened, mm. */
const LEAST_LEG = 0.5;

/** Whether a leg is as wide at its end as anywhere: only then is a shorter one the same but for its end. */
const isPlain = ({ steps }: PartBuild, { step }: Bend): boolean =>
  (steps.find((s) => s.id === step)?.values?.choices.shape ?? "rectangle") === "rectangle";

/** What is said where not everything was looked at. */
const LOOKED: Readonly<Record<Exclude<Searched["looked"], "all">, Finding>> = {
  folded: {
    level: "note",
    rule: "collision",
    message:
      "More than 1000 plates and bends: whether they stand in one another was looked at fully folded only, not on the way there.",
  },
  part: {
    level: "warn",
    rule: "collision",
    message:
      "So many plates and bends lie over one another that not all of them were looked at. Part the ones that are told, and the others will be.",
  },
};

/** Pieces that stand in one another: a stop when they do fully folded, a warning when they meet on the way only. */
export function collisionFindings(build: PartBuild, { meetings, looked }: Searched): Finding[] {
  const sheet = build.sheet!;
  const findings = meetings.slice(0, MOST_TOLD).map((meeting): Finding => {
    const { a, b, at, full, measured } = meeting;
    const [p, q] = [sheet.pieces[a], sheet.pieces[b]];
    return {
      level: full ? "stop" : "warn",
      rule: "collision",
      message: sayMeeting(sheet, meeting),
      step: q.step,
      pieces: [shownPiece(p), shownPiece(q)],
      collision: {
        at,
        full,
        share: measured?.share ?? (full ? 1 : at),
        ...(measured ? { depth: measured.depth } : {}),
        ...(measured?.volume === undefined ? {} : { volume: measured.volume }),
      },
      ...mendOf(build, measured),
    };
  });
  if (looked !== "all") findings.push(LOOKED[looked]);
  const rest = meetings.slice(MOST_TOLD);
  if (rest.length === 0) return findings;
  const pieces = [...new Set(rest.flatMap(({ a, b }) => [sheet.pieces[a], sheet.pieces[b]]))];
  const full = rest.some((m) => m.full);
  return [
    ...findings,
    {
      level: full ? "stop" : "warn",
      rule: "collision",
      message: `${rest.length} more pairs of plates and bends stand in one another. Mend the ones above first: most of these go with them.`,
      pieces: pieces.map(shownPiece),
      collision: { at: Math.min(...rest.map((m) => m.at)), full, share: full ? 1 : rest[0].at },
    },
  ];
}

/** Bends that must be made before others: turned by themselves at the end they would run into something. */
export const stuckFindings = (sheet: Sheet, stuck: readonly StuckBend[]): Finding[] =>
  stuck.map(({ bend, a, b, at }) => {
    const [turned, p, q] = [sheet.pieces[bend], sheet.pieces[a], sheet.pieces[b]];
    const name = named(sheet, bend);
    return {
      level: "note",
      rule: "turns-alone",
      message: `${name[0].toUpperCase()}${name.slice(1)} cannot be turned by itself while everything else stands folded: ${named(sheet, a)} and ${named(sheet, b)} would meet at ${percent(at)} of it. Bend it before what stands in its way.`,
      step: turned.step,
      pieces: [turned, p, q].map(shownPiece),
    };
  });

/** Sheets of a part that hang on nothing: no weld, no rivet reaches another. */
export const loneFindings = (sheet: Sheet, lone: readonly number[], reach: number): Finding[] =>
  lone.flatMap((i): Finding[] => {
    const plate = platesOf(sheet).find((p) => p.id === sheet.roots[i].plate);
    if (!plate) return [];
    return [
      {
        level: "note",
        rule: "lone-sheet",
        message: `The sheet of plate ${plate.letter} is nowhere within ${mm(reach)} of another when folded. Move it where it belongs, or make it a part of its own.`,
        step: plate.step,
        pieces: [{ kind: "plate", id: plate.id }],
      },
    ];
  });

/** Pieces that come nearer to one another than the shop leaves. */
export const gapFindings = (sheet: Sheet, gaps: readonly TightGap[], wanted: number): Finding[] =>
  gaps.map(({ a, b, gap }) => {
    const [p, q] = [sheet.pieces[a], sheet.pieces[b]];
    const first = named(sheet, a);
    return {
      level: "warn",
      rule: "tight-gap",
      message: `${first[0].toUpperCase()}${first.slice(1)} and ${named(sheet, b)} come within ${mm(gap, 2)} of one another; the shop leaves ${mm(wanted, 2)}. Set them ${mm(wanted - gap, 2)} further apart.`,
      step: q.step,
      pieces: [shownPiece(p), shownPiece(q)],
      found: gap,
      wanted,
    };
  });
