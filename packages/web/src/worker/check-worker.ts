import {
  createCollisionCheck,
  createPartBuilder,
  evenState,
  type Finding,
  type FindingPiece,
  foldSheet,
  meshSheet,
  type PartDocument,
  pieceIndex,
  Solid,
  sharedOf,
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
const checkCollisions = createCollisionCheck();

/** Flat polygons as triangles, three numbers a corner. */
function trianglesOf(faces: ReturnType<typeof sharedOf>["faces"]): Float32Array {
  const out: number[] = [];
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) out.push(...face[0], ...face[i], ...face[i + 1]);
  return Float32Array.from(out);
}

serveJobs({
  collisions: (document: PartDocument) => {
    const findings: readonly Finding[] = checkCollisions(document, buildOf(document));
    return { result: findings };
  },
  preview: (document: PartDocument) => {
    const build = tryOut(document);
    const mesh = build.sheet ? meshSheet(build.sheet, SCREEN_CHORD) : undefined;
    return { result: { build, mesh } };
  },
  shared: ({ document, pieces, share, held }: SharedQuestion) => {
    const { sheet, heldBySteps } = buildOf(document);
    const [a, b] = pieces.map(({ kind, id }) => (sheet ? pieceIndex(sheet, kind, id) : -1));
    if (!sheet || a < 0 || b < 0) return { result: new Float32Array() };
    const state = evenState(sheet, share, new Set([...held, ...(heldBySteps ?? [])]));
    const folding = foldSheet(sheet, state, document.anchor);
    const [p, q] = [a, b].map((i) => new Solid(i, sheet.pieces[i], folding.pieces[i], sheet.t));
    const triangles = trianglesOf(sharedOf(p, q).faces);
    return { result: triangles, handOver: [triangles.buffer as ArrayBuffer] };
  },
});
