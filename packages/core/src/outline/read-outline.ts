import {
  checkList,
  checkTyped,
  type DocumentProblem,
  isNumber,
  isPlain,
  KEY,
  type Plain,
  type Say,
} from "../fields/checking.ts";
import { parseJson } from "../json-text.ts";
import { fail, ok, type Result } from "../result.ts";
import { slotsProblem } from "./equations.ts";
import {
  DIMENSION_SLOTS,
  type DimensionKind,
  FARTHEST,
  MOST_CURVES,
  MOST_POINTS,
  MOST_RELATIONS,
  OUTLINE_FORMAT,
  OUTLINE_VERSION,
  type Outline,
  type OutlineCurve,
  RELATION_SLOTS,
  type RelationKind,
} from "./outline.ts";

const NAME = /^[A-Za-z_][A-Za-z0-9_]{0,39}$/;
const LONGEST_NAME = 200;

/** What is called what: points first, then curves, which may not share a name with one another. */
type Found = Map<string, OutlineCurve | "point">;

const place = (value: unknown): value is readonly [number, number] =>
  Array.isArray(value) && value.length === 2 && value.every((v) => isNumber(v) && Math.abs(v) <= FARTHEST);

const PLACE = `two numbers from -${FARTHEST} to ${FARTHEST}, mm`;

/** Says of keys that nothing reads what they are. */
function onlyKeys(value: Plain, known: readonly string[], at: string, say: Say): void {
  for (const key of Object.keys(value))
    if (!known.includes(key))
      say(`${at}/${key}`, `This is nothing that stands here. There are: ${known.join(", ")}.`);
}

function checkPoints(points: unknown, at: string, say: Say, found: Found): void {
  if (!isPlain(points)) return void say(at, `"points" must be an object: for each point by its id ${PLACE}.`);
  const all = Object.entries(points);
  if (all.length > MOST_POINTS) return void say(at, `${all.length} points are more than ${MOST_POINTS}.`);
  for (const [id, value] of all) {
    if (!KEY.test(id)) say(`${at}/${id}`, "An id is up to 20 letters, digits, - and _.");
    else if (!place(value)) say(`${at}/${id}`, `A point is ${PLACE}.`);
    else found.set(id, "point");
  }
}

/** Whether an entry has an id that nothing else has. */
function hasId(
  entry: unknown,
  at: string,
  say: Say,
  taken: { has(id: string): boolean },
): entry is Plain & { id: string } {
  if (!isPlain(entry)) say(at, "This must be an object.");
  else if (typeof entry.id !== "string" || !KEY.test(entry.id))
    say(`${at}/id`, "An id is up to 20 letters, digits, - and _.");
  else if (taken.has(entry.id)) say(`${at}/id`, `There is another thing called ${JSON.stringify(entry.id)}.`);
  else return true;
  return false;
}

const ENDS = { line: ["a", "b"], arc: ["a", "b", "c"], circle: ["c"] } as const;

function checkCurve(entry: unknown, at: string, say: Say, found: Found): void {
  if (!hasId(entry, at, say, found)) return;
  const { kind, id } = entry;
  if (kind !== "line" && kind !== "arc" && kind !== "circle")
    return void say(`${at}/kind`, `${JSON.stringify(kind)} is not one of line, arc, circle.`);
  const ends = ENDS[kind];
  const own = { line: [], arc: ["ccw"], circle: ["r"] }[kind];
  onlyKeys(entry, ["id", "kind", "construction", ...ends, ...own], at, say);
  const wrong = ends.filter((end) => found.get(String(entry[end])) !== "point");
  for (const end of wrong) say(`${at}/${end}`, `There is no point called ${JSON.stringify(entry[end])}.`);
  if (wrong.length > 0) return;
  if (kind !== "circle" && entry.a === entry.b)
    return void say(
      `${at}/b`,
      kind === "line"
        ? "A line that begins and ends at one point is none: give it two."
        : "An arc that begins and ends at one point is none: draw a circle.",
    );
  if (kind === "arc" && typeof entry.ccw !== "boolean")
    return void say(
      `${at}/ccw`,
      `"ccw" is true or false: counter-clockwise from a to b, or the other way round.`,
    );
  if (kind === "arc" && (entry.c === entry.a || entry.c === entry.b))
    return void say(`${at}/c`, "The middle of an arc is none of its ends.");
  if (kind === "circle" && !(isNumber(entry.r) && entry.r > 0 && entry.r <= FARTHEST))
    return void say(`${at}/r`, `A radius is a number above 0, up to ${FARTHEST} mm.`);
  if (entry.construction !== undefined && typeof entry.construction !== "boolean")
    return void say(`${at}/construction`, "This is true or false.");
  found.set(id, entry as unknown as OutlineCurve);
}

const isOf = (of: unknown): of is readonly string[] =>
  Array.isArray(of) && of.every((v) => typeof v === "string");

function checkOf(
  entry: Plain,
  what: { readonly relation: RelationKind } | { readonly dimension: DimensionKind },
  at: string,
  say: Say,
  found: Found,
): void {
  const { of } = entry;
  if (!isOf(of)) return void say(`${at}/of`, `"of" is a list of the ids that it is about.`);
  const problem = slotsProblem({ ...what, of }, (id) => found.get(id));
  const said = "relation" in what ? what.relation : what.dimension;
  if (problem) say(`${at}/of`, `${said[0].toUpperCase()}${said.slice(1)}: ${problem}.`);
  else if (new Set(of).size < of.length) say(`${at}/of`, "This is about one thing twice.");
}

function checkRelation(entry: unknown, at: string, say: Say, found: Found, ids: Set<string>): void {
  if (!hasId(entry, at, say, ids)) return;
  ids.add(entry.id);
  onlyKeys(entry, ["id", "kind", "of", "at"], at, say);
  if (!Object.hasOwn(RELATION_SLOTS, String(entry.kind)))
    return void say(
      `${at}/kind`,
      `${JSON.stringify(entry.kind)} is not one of ${Object.keys(RELATION_SLOTS).join(", ")}.`,
    );
  if (entry.at !== undefined && !place(entry.at)) say(`${at}/at`, `This is ${PLACE}.`);
  checkOf(entry, { relation: entry.kind as RelationKind }, at, say, found);
}

function checkDimension(
  entry: unknown,
  at: string,
  say: Say,
  found: Found,
  { ids, names }: { ids: Set<string>; names: Set<string> },
): void {
  if (!hasId(entry, at, say, ids)) return;
  ids.add(entry.id);
  onlyKeys(entry, ["id", "kind", "of", "value", "name", "showing", "where"], at, say);
  if (!Object.hasOwn(DIMENSION_SLOTS, String(entry.kind)))
    return void say(
      `${at}/kind`,
      `${JSON.stringify(entry.kind)} is not one of ${Object.keys(DIMENSION_SLOTS).join(", ")}.`,
    );
  if (entry.value === undefined && entry.showing !== true)
    say(`${at}/value`, "A dimension that drives has a value: a number, or an expression as a text.");
  else if (entry.value !== undefined) checkTyped(entry.value, `${at}/value`, say);
  if (entry.showing !== undefined && typeof entry.showing !== "boolean")
    say(`${at}/showing`, "This is true or false.");
  if (entry.where !== undefined && !place(entry.where)) say(`${at}/where`, `This is ${PLACE}.`);
  if (entry.name !== undefined) checkName(entry.name, `${at}/name`, say, names);
  checkOf(entry, { dimension: entry.kind as DimensionKind }, at, say, found);
}

function checkName(name: unknown, at: string, say: Say, names: Set<string>): void {
  if (typeof name !== "string" || !NAME.test(name))
    return void say(
      at,
      `${JSON.stringify(name)} cannot be a name: use letters, digits and _, beginning with a letter.`,
    );
  if (names.has(name)) return void say(at, `There is a value called "${name}" already.`);
  names.add(name);
}

const LONGEST_REFERENCE = 200;

function checkReference(entry: unknown, at: string, say: Say, found: Found, stood: Set<string>): void {
  if (!isPlain(entry)) return void say(at, "This must be an object.");
  onlyKeys(entry, ["id", "to"], at, say);
  const curve = found.get(String(entry.id));
  if (curve === undefined || curve === "point")
    say(`${at}/id`, `There is no curve called ${JSON.stringify(entry.id)}.`);
  else if (stood.has(curve.id)) say(`${at}/id`, `${curve.id} stands for something already.`);
  else stood.add(curve.id);
  if (typeof entry.to !== "string" || entry.to === "" || entry.to.length > LONGEST_REFERENCE)
    say(`${at}/to`, "This is the part's name of an edge, a bend line or an opening.");
}

/** Every problem of an outline, each with its place. */
export function outlineProblems(document: unknown, path = ""): DocumentProblem[] {
  const problems: DocumentProblem[] = [];
  const say: Say = (at, message) => problems.push({ path: at, message });
  if (!isPlain(document) || document.format !== OUTLINE_FORMAT)
    return [{ path: `${path}/format`, message: `This is no outline: "format" must be "${OUTLINE_FORMAT}".` }];
  if (document.version !== OUTLINE_VERSION)
    return [
      {
        path: `${path}/version`,
        message: `Version ${JSON.stringify(document.version)} is not one that this program reads (${OUTLINE_VERSION}). Use a later program.`,
      },
    ];
  onlyKeys(
    document,
    [
      "format",
      "version",
      "name",
      "points",
      "curves",
      "relations",
      "dimensions",
      "values",
      "references",
      "leftOut",
    ],
    path,
    say,
  );
  if (typeof document.name !== "string" || document.name.length > LONGEST_NAME)
    say(`${path}/name`, `"name" is a text of at most ${LONGEST_NAME} characters.`);
  const found: Found = new Map();
  const ids = new Set<string>();
  const names = new Set<string>();
  checkPoints(document.points, `${path}/points`, say, found);
  const list = (key: string, most: number, check: (entry: unknown, at: string) => void) =>
    checkList(document[key] ?? [], `${path}/${key}`, most, say, check);
  list("values", 500, (entry, at) => {
    if (!isPlain(entry)) return void say(at, "This must be an object.");
    onlyKeys(entry, ["name", "value", "measures"], at, say);
    checkName(entry.name, `${at}/name`, say, names);
    checkTyped(entry.value, `${at}/value`, say);
    if (entry.measures !== undefined && !["length", "angle", "number"].includes(String(entry.measures)))
      say(`${at}/measures`, "This is length, angle or number.");
  });
  list("curves", MOST_CURVES, (entry, at) => checkCurve(entry, at, say, found));
  list("leftOut", MOST_CURVES, (id, at) => {
    const curve = typeof id === "string" ? found.get(id) : undefined;
    if (curve === undefined || curve === "point") say(at, `There is no curve called ${JSON.stringify(id)}.`);
  });
  const stood = new Set<string>();
  list("references", MOST_CURVES, (entry, at) => checkReference(entry, at, say, found, stood));
  list("relations", MOST_RELATIONS, (entry, at) => checkRelation(entry, at, say, found, ids));
  list("dimensions", MOST_RELATIONS, (entry, at) => checkDimension(entry, at, say, found, { ids, names }));
  return problems;
}

/** Reads an outline; a list that is left out is an empty one. */
export function readOutline(document: unknown): Result<Outline, DocumentProblem[]> {
  const problems = outlineProblems(document);
  if (problems.length > 0) return fail(problems);
  const outline = document as Outline;
  return ok({
    ...outline,
    curves: outline.curves ?? [],
    relations: outline.relations ?? [],
    dimensions: outline.dimensions ?? [],
  });
}

/** The outlines in the text of a file: one, or several under `outlines`. */
export function readOutlinesText(text: string): Result<Outline[], DocumentProblem[]> {
  const value = parseJson(text, "an outline");
  if (!value.ok) return fail([{ path: "", message: value.error }]);
  const several =
    isPlain(value.value) && value.value.format !== OUTLINE_FORMAT ? value.value.outlines : undefined;
  if (!Array.isArray(several)) {
    const one = readOutline(value.value);
    return one.ok ? ok([one.value]) : one;
  }
  const problems = several.flatMap((o, i) => outlineProblems(o, `/outlines/${i}`));
  if (problems.length > 0) return fail(problems);
  return ok(several.flatMap((o) => [readOutline(o)].flatMap((r) => (r.ok ? [r.value] : []))));
}
