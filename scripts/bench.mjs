// Speed: every figure as a ratio, an exponent or a time, with the most that it may be. `--quick` measures what takes
// little time; `--json FILE` says where the figures go; `--against FILE` compares with those of an earlier run.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { bin, buildAll, ensureChromium, installDependencies, root, run } from "./set-up.mjs";

const args = process.argv.slice(2);
const given = (name) => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined);
const quick = args.includes("--quick");
const json = given("--json") ?? join(root, ".setup/bench/latest.json");
const against = given("--against");
const unknown = args.filter((a, i) =>
  a.startsWith("--")
    ? !["--quick", "--json", "--against"].includes(a)
    : !["--json", "--against"].includes(args[i - 1]),
);
if (unknown.length > 0) {
  process.stderr.write(`Unknown: ${unknown.join(" ")}. It takes --quick, --json FILE and --against FILE.\n`);
  process.exit(1);
}
if (against && !existsSync(against)) {
  process.stderr.write(`There is no file ${against} to compare with.\n`);
  process.exit(1);
}
// Read before anything is written: it may be the same file.
const before = against ? JSON.parse(readFileSync(against, "utf8")) : undefined;

installDependencies();
buildAll();
run(bin("tsc"), ["-b", "e2e"]);
run(bin("vite"), ["build", "--config", "bench/vite.config.ts", "--logLevel", "warn"]);
const rows = join(root, ".setup/bench/rows.jsonl");
mkdirSync(dirname(rows), { recursive: true });
rmSync(rows, { force: true });
const env = {
  ...process.env,
  BENCH_ROWS: rows,
  BENCH_QUICK: quick ? "1" : "",
  CHROMIUM: ensureChromium(),
};
const files = [
  "incremental",
  "growth",
  "memory",
  "charts",
  "outlines",
  "collisions",
  "cli",
  "folding",
  "edit",
];
// What takes long and hardly changes is left to the whole.
const left = quick ? ["collisions", "outlines", "folding", "charts"] : [];
const start = performance.now();
for (const name of files.filter((f) => !left.includes(f)))
  run("node", ["--expose-gc", `.setup/tools/bench/${name}.bench.js`], { env });
const figures = readFileSync(rows, "utf8")
  .trim()
  .split("\n")
  .map((line) => JSON.parse(line));
mkdirSync(dirname(json), { recursive: true });
writeFileSync(json, `${JSON.stringify({ node: process.version, quick, figures }, undefined, 2)}\n`);
const over = figures.filter((f) => f.value > f.most);
const seconds = ((performance.now() - start) / 1000).toFixed(0);
process.stdout.write(
  `${figures.length} figures in ${seconds} s, ${over.length} over what they may be; kept in ${json}\n`,
);
if (before) {
  const known = new Map(before.figures.map((f) => [f.name, f]));
  for (const { name, value } of figures) {
    const old = known.get(name);
    if (old) process.stdout.write(`${(value / old.value).toFixed(2)} of before: ${name}\n`);
  }
}
