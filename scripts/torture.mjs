// Kills the server at random moments while parts are saved, again and again, and looks whether anything
// that it had acknowledged is lost: npm run torture [-- ROUNDS]. Then it is killed fifty times while parts take a change
// of stock over, and every part is looked at.
import { execFileSync, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { bin, buildAll, installDependencies, root } from "./set-up.mjs";

installDependencies();
buildAll();
const { applyCommands, newPart } = await import(join(root, "packages/core/dist/index.js"));

const rounds = Number(process.argv[2] ?? 200);
if (!(Number.isInteger(rounds) && rounds > 0)) {
  process.stderr.write("Say how many rounds: npm run torture -- 200\n");
  process.exit(2);
}
const PARTS = 4;
/** The server is killed after so long at the most, in ms from the first save of a round. */
const LONGEST = 400;

const folder = mkdtempSync(join(tmpdir(), "hillcrest-torture-"));
const file = join(folder, "parts.sqlite");
const port = await new Promise((done) => {
  const probe = createServer().listen(0, "127.0.0.1", () => {
    const { port: free } = probe.address();
    probe.close(() => done(free));
  });
});
const api = `http://127.0.0.1:${port}/api`;

function startServer() {
  const server = spawn("node", [join(root, "packages/server/dist/main.js")], {
    stdio: ["ignore", "pipe", "ignore"],
    env: {
      ...process.env,
      HILLCREST_PORT: String(port),
      HILLCREST_DATABASE: file,
      HILLCREST_DEMO: "none",
    },
  });
  return new Promise((done, fail) => {
    server.once("exit", (code) => fail(new Error(`the server ended with ${code} when it was to start`)));
    server.stdout.once("data", () => {
      server.removeAllListeners("exit");
      done(server);
    });
  });
}

async function ask(method, path, body) {
  const answer = await fetch(api + path, {
    method,
    headers: { "content-type": "application/json" },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
  return answer.json();
}

/**
 * Asked in a process of its own: one that closes the database keeps its files open until it tidies its
 * memory, and while anybody has them open a killed server's last write is not looked for at the start.
 */
const checkIntegrity = () =>
  JSON.parse(
    execFileSync(
      "node",
      [
        "-e",
        `const db = new (require(process.argv[1]))(process.argv[2]);
        const rows = db.prepare("PRAGMA integrity_check").all();
        process.stdout.write(JSON.stringify(rows.map((r) => r.integrity_check)));`,
        join(root, "node_modules/libsql"),
        file,
      ],
      { encoding: "utf8" },
    ),
  );

const document = (i) => ({
  ...newPart(`Part ${i}`),
  steps: [
    { id: "s1", kind: "plate", width: "100", depth: "50" },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" },
  ],
});

const lost = [];
const expect = (holds, words) => {
  if (!holds) lost.push(words);
};

let server = await startServer();
/** What the server has said yes to, revision and document of each part, and all that it was sent. */
const kept = new Map();
for (let i = 0; i < PARTS; i++) {
  const part = await ask("POST", "/parts", { document: document(i) });
  kept.set(part.id, { revision: part.revision, document: part.document, sent: new Set() });
}
let acknowledged = 0;
let cut = 0;

/** Saves one part again and again until the server is gone. */
async function saveOn(id, stop) {
  const mine = kept.get(id);
  while (!stop.now) {
    const commands = [
      { do: "set", step: "s2", values: { length: String(10 + Math.floor(Math.random() * 80)) } },
      { do: "part", values: { name: `Part ${Math.random()}` } },
    ];
    const next = applyCommands(mine.document, commands).value.document;
    mine.sent.add(JSON.stringify(next));
    try {
      const { revision } = await ask("PATCH", `/parts/${id}`, { revision: mine.revision, commands });
      acknowledged++;
      mine.revision = revision;
      mine.document = next;
    } catch {
      // It may have arrived and not been answered: then it is there whole, or not at all.
      cut++;
      return;
    }
  }
}

const same = (a, b) => JSON.stringify(a) === JSON.stringify(b);
const begun = Date.now();
for (let round = 1; round <= rounds; round++) {
  const stop = { now: false };
  const saving = [...kept.keys()].map((id) => saveOn(id, stop));
  await wait(Math.random() * LONGEST);
  const ended = new Promise((done) => server.once("exit", done));
  server.kill("SIGKILL");
  await ended;
  stop.now = true;
  await Promise.all(saving);
  const integrity = checkIntegrity();
  expect(same(integrity, ["ok"]), `round ${round}: integrity ${integrity.join(", ")}`);
  server = await startServer();
  for (const [id, mine] of kept) {
    const now = await ask("GET", `/parts/${id}`);
    const told = await ask("GET", `/parts/${id}/revisions/${mine.revision}`).catch(() => undefined);
    expect(
      same(told?.document, mine.document),
      `round ${round}: revision ${mine.revision} of ${id} is not what was acknowledged`,
    );
    // What was cut off may have arrived; nothing that nobody sent has.
    const known =
      now.revision === mine.revision
        ? same(now.document, mine.document)
        : mine.sent.has(JSON.stringify(now.document));
    expect(
      now.revision >= mine.revision && known,
      `round ${round}: part ${id} has revision ${now.revision}, told ${mine.revision}`,
    );
    mine.revision = now.revision;
    mine.document = now.document;
  }
  if (round % 20 === 0) process.stdout.write(`${round} of ${rounds}: ${acknowledged} saves acknowledged\n`);
}

let replayed = 0;
for (const [id, mine] of kept) {
  const numbers = [];
  for (let before = mine.revision + 1; before > 1; before = numbers.at(-1))
    numbers.push(...(await ask("GET", `/parts/${id}/revisions?before=${before}`)).map((r) => r.number));
  expect(numbers.length === mine.revision, `part ${id} has ${numbers.length} of ${mine.revision} revisions`);
  let now = newPart("");
  for (const number of numbers.reverse()) {
    const { commands } = await ask("GET", `/parts/${id}/revisions/${number}`);
    now = applyCommands(now, commands).value.document;
    replayed++;
  }
  expect(same(now, mine.document), `part ${id}: all its commands done again make another part`);
}
server.kill("SIGTERM");
await new Promise((done) => server.once("exit", done));
// As the server itself opens it.
const { openDatabase } = await import(join(root, "packages/server/dist/index.js"));
const source = await openDatabase(file);
const [{ journal_mode }] = await source.query("PRAGMA journal_mode");
const [{ synchronous }] = await source.query("PRAGMA synchronous");
await source.destroy();
rmSync(folder, { recursive: true, force: true });

process.stdout.write(
  `killed ${rounds} times in ${((Date.now() - begun) / 1000).toFixed(0)} s: ${acknowledged} saves acknowledged, ${cut} cut off, ${replayed} revisions replayed\n` +
    `journal mode ${journal_mode}, synchronous ${["OFF", "NORMAL", "FULL", "EXTRA"][synchronous]}\n` +
    (lost.length === 0 ? "nothing that was acknowledged is lost\n" : `LOST:\n${lost.join("\n")}\n`),
);
const { status } = spawnSync(
  bin("vitest"),
  ["run", "--project", "server", "take-over", "--testTimeout", "1800000"],
  { cwd: root, stdio: "inherit", env: { ...process.env, TORTURE_KILLS: "50" } },
);
process.exit(lost.length === 0 && status === 0 ? 0 : 1);
