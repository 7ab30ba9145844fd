import {
  clearanceWithin,
  createCollisionCheck,
  createPartBuilder,
  createTiler,
  evenState,
  examineFully,
  type Finding,
  type FindingPiece,
  foldSheet,
  type PartDocument,
  pieceIndex,
  Solid,
  sharedOf,
  shownPiece,
} from "@hillcrest/core";
import { SCREEN_CHORD } from "./screen-chord.ts";
import { serveJobs } from "./serve-jobs.ts";

/** Two pieces of a document, and how far it is folded: what do they share there? */
export interface SharedQuestion {
  readonly document: PartDocument;
  readonly pieces: readonly [FindingPiece, FindingPiece];
  readonly share: number;
  /** Bends that are held flat. */
  readonly held: readonly string[];
}

// Only shapes are wanted here: what the rules say of them is the build worker's to ask.
const buildOf = createPartBuilder();
// What is only tried has a builder of its own, so that the part's own keeps what it knows.
const tryOut = createPartBuilder();
const tileTried = createTiler(SCREEN_CHORD);
const checkCollisions = createCollisionCheck();

/** Flat polygons as triangles, three numbers a corner. */
function trianglesOf(faces: ReturnType<typeof sharedOf>["faces"]): Float32Array {
  const out: number[] = [];
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) out.push(...face[0], ...face[i], ...face[i + 1]);
  return Float32Array.from(out);
}

/** A document, and how far it is folded: where does it come nearest to itself? */
export type GapQuestion = Omit<SharedQuestion, "pieces">;

/** How near the metal of a part comes to itself, mm, and the two pieces. */
export interface PartGap {
  readonly distance: number;
  readonly pieces: readonly [FindingPiece, FindingPiece];
}

/** What a document is built to, and how its pieces turn at a share of folding. */
function foldedTo({ document, share, held }: GapQuestion) {
  const { sheet, heldBySteps } = buildOf(document);
  return sheet && { sheet, state: evenState(sheet, share, new Set([...held, ...(heldBySteps ?? [])])) };
}

serveJobs({
  gap: (question: GapQuestion) => {
    const folded = foldedTo(question);
    const found = folded && clearanceWithin(folded.sheet, folded.state);
    const [a, b] = found?.pieces.map(shownPiece) ?? [];
    const result: PartGap | undefined = found && a && b && { distance: found.distance, pieces: [a, b] };
    return { result };
  },
  collisions: (document: PartDocument) => {
    const findings: readonly Finding[] = checkCollisions(document, buildOf(document));
    return { result: findings };
  },
  findings: (document: PartDocument) => ({ result: examineFully(document).findings }),
  preview: (document: PartDocument) => {
    const build = tryOut(document);
    const mesh = build.sheet && tileTried(build.sheet);
    return { result: { build, mesh } };
  },
  shared: (question: SharedQuestion) => {
    const folded = foldedTo(question);
    const [a, b] = question.pieces.map(({ kind, id }) => (folded ? pieceIndex(folded.sheet, kind, id) : -1));
    if (!folded || a < 0 || b < 0) return { result: new Float32Array() };
    const { sheet, state } = folded;
    const folding = foldSheet(sheet, state, question.document.anchor);
    const [p, q] = [a, b].map((i) => new Solid(i, sheet.pieces[i], folding.pieces[i], sheet.t));
    const triangles = trianglesOf(sharedOf(p, q).faces);
    return { result: triangles, handOver: [triangles.buffer as ArrayBuffer] };
  },
});
