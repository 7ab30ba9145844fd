import type { DocumentProblem } from "../fields/checking.ts";
import { parseJson } from "../json-text.ts";
import { fail, ok, type Result } from "../result.ts";
import { refersTo } from "./item-references.ts";
import {
  itemOf,
  LATER_SECTIONS,
  LIBRARY_FORMAT,
  LIBRARY_VERSION,
  SECTION_NOUNS,
  STOCK_SECTIONS,
  type StockItem,
  type StockLibrary,
} from "./library.ts";
import { itemProblems } from "./read-item.ts";

const MOST_ITEMS = 5000;
/** Of very many problems only these are told. */
const MOST_TOLD = 50;

/** Holds a value to the rules of a stock library: every item by itself, and what they refer to. */
export function readLibrary(value: unknown): Result<StockLibrary, DocumentProblem[]> {
  const problems: DocumentProblem[] = [];
  const say = (path: string, message: string) => problems.push({ path, message });
  if (typeof value !== "object" || value === null || Array.isArray(value))
    return fail([{ path: "", message: "A stock library must be an object." }]);
  const library: Record<string, unknown> = {
    ...Object.fromEntries([...LATER_SECTIONS].map((section) => [section, []])),
    ...value,
  };
  if (library.format !== LIBRARY_FORMAT)
    return fail([
      {
        path: "/format",
        message: `This is not a stock library: "format" must be "${LIBRARY_FORMAT}". A file from “Export library” says so; a part is imported on the Shelf.`,
      },
    ]);
  if (library.version !== LIBRARY_VERSION)
    return fail([
      {
        path: "/version",
        message: `The library has ${typeof library.version === "number" ? `version ${library.version}` : "no version"}; this Hillcrest reads version ${LIBRARY_VERSION}.`,
      },
    ]);
  for (const section of STOCK_SECTIONS) {
    const list = library[section];
    if (!Array.isArray(list)) {
      say(`/${section}`, `"${section}" must be a list.`);
      continue;
    }
    if (list.length > MOST_ITEMS) {
      say(`/${section}`, `There can be at most ${MOST_ITEMS} here.`);
      continue;
    }
    const ids = new Map<unknown, number>();
    list.forEach((item: unknown, i) => {
      problems.push(...itemProblems(section, item, `/${section}/${i}`));
      const id = (item as { id?: unknown } | null)?.id;
      if (ids.has(id)) say(`/${section}/${i}/id`, `The id "${String(id)}" is used twice.`);
      ids.set(id, i);
    });
  }
  if (problems.length === 0) problems.push(...danglingProblems(library as unknown as StockLibrary));
  return problems.length > 0 ? fail(problems.slice(0, MOST_TOLD)) : ok(library as unknown as StockLibrary);
}

/** References that lead nowhere. */
function danglingProblems(library: StockLibrary): DocumentProblem[] {
  return STOCK_SECTIONS.flatMap((section) =>
    (library[section] as readonly StockItem[]).flatMap((item, i) =>
      refersTo(section, item).flatMap((r) =>
        itemOf(library, r.section, r.id)
          ? []
          : [
              {
                path: `/${section}/${i}`,
                message: `"${item.name}" refers to the ${SECTION_NOUNS[r.section]} "${r.id}", which is not in the library.`,
              },
            ],
      ),
    ),
  );
}

/** Reads a stock library from text; a JSON error is named by line and column. */
export function readLibraryText(text: string): Result<StockLibrary, DocumentProblem[]> {
  const value = parseJson(text, "a stock library");
  return value.ok ? readLibrary(value.value) : fail([{ path: "", message: value.error }]);
}
