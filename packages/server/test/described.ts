import { openApi } from "@hillcrest/server";
import { Ajv2020, type ValidateFunction } from "ajv/dist/2020.js";

interface Described {
  readonly paths: Readonly<Record<string, Readonly<Record<string, { readonly responses: object }>>>>;
}

const api = openApi() as Described;
const ajv = new Ajv2020({ strict: false, validateFormats: false });
ajv.addSchema({ ...api, $id: "urn:hillcrest:api" });
const known = new Map<string, ValidateFunction>();

const templates = Object.keys(api.paths).map((path) => ({
  path,
  form: new RegExp(`^${path.replace(/\{\w+\}/g, "[^/]+")}$`),
  // Where two fit, the one with fewer blanks is meant.
  blanks: path.split("{").length,
}));

/** The pointer to a schema of the description. */
const pointer = (...names: string[]) =>
  `urn:hillcrest:api#/${names.map((n) => encodeURIComponent(n.replace(/~/g, "~0").replace(/\//g, "~1"))).join("/")}`;

/**
 * What of an answer is not as `/api/openapi.json` describes it; nothing where it is. Addresses and methods that there are
 * none of are described by none.
 */
export function notAsDescribed(
  method: string,
  address: string,
  status: number,
  type: string | null,
  body: unknown,
): string | undefined {
  const [place] = address.split("?");
  const fitting = templates.filter((t) => t.form.test(place)).sort((a, b) => a.blanks - b.blanks);
  const verb = method.toLowerCase();
  const found = fitting.find((t) => api.paths[t.path][verb]);
  if (!found) return status >= 400 ? undefined : `${method} ${place} is not described`;
  const { responses } = api.paths[found.path][verb] as {
    responses: Record<string, { content?: Record<string, unknown> }>;
  };
  const key = String(status) in responses ? String(status) : "default";
  if (key === "default" && status < 400)
    return `${method} ${found.path} is not described to answer ${status}`;
  const { content } = responses[key];
  const media = type?.split(";")[0] ?? "";
  if (!content)
    return body === undefined ? undefined : `${method} ${found.path} answers ${status} with a body`;
  if (!(media in content)) return `${method} ${found.path} answers ${status} as ${media}`;
  if (media !== "application/json" && media !== "application/problem+json") return undefined;
  const at = pointer("paths", found.path, verb, "responses", key, "content", media, "schema");
  if (!known.has(at)) known.set(at, ajv.compile({ $ref: at }));
  const holds = known.get(at)!;
  return holds(body) ? undefined : `${method} ${found.path} ${status}: ${ajv.errorsText(holds.errors)}`;
}
