// What somebody would write who has nothing but the description: makes a part, adds a flange to it, asks what the checks
// find, exports it and waits for the job. node make-a-part.js BASE prints what it was told, as JSON.
import createClient from "openapi-fetch";
import type { components, paths } from "./made/api.js";

const client = createClient<paths>({ baseUrl: process.argv[2] });

/** An answer, or the problem that the server tells. */
function told<T>({ data, error }: { data?: T; error?: components["schemas"]["Problem"] }): T {
  if (data === undefined) throw new Error(error ? `${error.title}: ${error.detail}` : "There was no answer.");
  return data;
}

const document: components["schemas"]["PartDocument"] = {
  format: "hillcrest-part",
  version: 4,
  name: "Cable cover by a client",
  stock: { material: "Aluminium", density: "2700", thickness: "1.2", radius: "1.5", flatBy: "K", k: "0.4" },
  steps: [{ id: "s1", kind: "plate", width: "240", depth: "46" }],
};
const part = told(await client.POST("/api/parts", { body: { document } }));
const flange: components["schemas"]["FlangeStep"] = {
  id: "s2",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north" }],
  length: "28",
};
const saved = told(
  await client.PATCH("/api/parts/{id}", {
    params: { path: { id: part.id } },
    body: { revision: part.revision, commands: { do: "add", step: flange } },
  }),
);
const at = { params: { path: { id: part.id } } };
const { findings } = told(await client.GET("/api/parts/{id}/findings", at));
const gravest: components["schemas"]["Finding"]["level"] | undefined = findings[0]?.level;

// A name that nothing knows is told with the place and the name that was meant.
const wrong = await client.PATCH("/api/parts/{id}", {
  ...at,
  body: {
    revision: saved.revision,
    commands: { do: "set", step: "s2", values: { lenght: "35" } as unknown as { length: string } },
  },
});

let job = told(
  await client.POST("/api/exports", { body: { parts: [{ id: part.id, quantity: 2 }], as: "zip" } }),
);
while (job.state === "working") {
  await new Promise((done) => setTimeout(done, 50));
  job = told(await client.GET("/api/exports/{job}", { params: { path: { job: job.id } } }));
}
const zip = told(
  await client.GET("/api/exports/{job}/file", {
    params: { path: { job: job.id } },
    parseAs: "arrayBuffer",
  }),
) as unknown as ArrayBuffer;

const answer = {
  revision: saved.revision,
  gravest: gravest ?? null,
  refused: wrong.error?.detail,
  state: job.state,
  refusedParts: job.refused,
  zip: Buffer.from(zip).subarray(0, 2).toString(),
};
process.stdout.write(JSON.stringify(answer));
