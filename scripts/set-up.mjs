// Makes a fresh clone ready: dependencies, builds, and for the tests a browser. Only Node's own modules.
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("../", import.meta.url));
const stamps = join(root, ".setup");

/** Runs a command in the repository; a failure ends the whole script with its exit code. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: "inherit", ...options });
  if (done.error) {
    process.stderr.write(`${command} could not be started: ${done.error.message}\n`);
    process.exit(1);
  }
  if (done.status !== 0) process.exit(done.status ?? 1);
}

export const bin = (name) => join(root, "node_modules", ".bin", name);

function filesOf(path) {
  const full = join(root, path);
  if (!existsSync(full)) return [];
  if (statSync(full).isFile()) return [path];
  return readdirSync(full)
    .filter((name) => name !== "node_modules" && name !== "dist" && !name.endsWith(".tsbuildinfo"))
    .flatMap((name) => filesOf(join(path, name)));
}

function fingerprint(paths) {
  const hash = createHash("sha256").update(process.version);
  for (const file of paths.flatMap(filesOf).sort()) hash.update(file).update(readFileSync(join(root, file)));
  return hash.digest("hex");
}

/** Does `work` unless it was done before with the same inputs and all its results are still there. */
function once(name, inputs, results, work) {
  const stamp = join(stamps, name);
  const now = fingerprint(inputs);
  const before = existsSync(stamp) ? readFileSync(stamp, "utf8") : "";
  if (before === now && results.every((file) => existsSync(join(root, file)))) return;
  work();
  mkdirSync(stamps, { recursive: true });
  writeFileSync(stamp, now);
}

const sources = (name) => ["src", "tsconfig.json", "package.json"].map((part) => `packages/${name}/${part}`);

export function installDependencies() {
  const major = Number(process.versions.node.split(".")[0]);
  if (major < 20) {
    process.stderr.write(`Hillcrest needs Node 20 or later; this is ${process.version}.\n`);
    process.exit(1);
  }
  if (isInstalled()) return;
  process.stdout.write("Installing dependencies…\n");
  run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
}

/** Whether what the lock file names is what npm says that it has installed, whoever has called it. */
function isInstalled() {
  const kept = join(root, "node_modules", ".package-lock.json");
  if (!existsSync(kept)) return false;
  const packages = (file) => JSON.parse(readFileSync(file, "utf8")).packages ?? {};
  const there = packages(kept);
  return Object.entries(packages(join(root, "package-lock.json"))).every(
    ([path, { version, link, optional, peer }]) =>
      // The workspaces themselves are links; what is optional is there on some machines only.
      !path.includes("node_modules/") ||
      optional ||
      peer ||
      (link ? path in there : there[path]?.version === version),
  );
}

const configs = ["tsconfig.base.json", "package-lock.json"];

/** What runs on Node: types and programs together, so that neither is older than the other. */
export function buildPrograms() {
  const programs = ["core", "server", "cli"];
  const built = [...configs, "packages/core/vite.config.ts", ...programs.flatMap(sources)];
  const results = [
    "packages/core/dist/index.js",
    "packages/server/dist/main.js",
    "packages/cli/dist/main.js",
  ];
  once("programs", built, results, () => {
    process.stdout.write("Building core, server and command line…\n");
    run(bin("vite"), ["build", "packages/core", "--logLevel", "warn"]);
    run(bin("tsc"), ["-b", ...programs.map((p) => `packages/${p}`)]);
  });
}

export function buildAll() {
  buildPrograms();
  once(
    "pages",
    [
      ...configs,
      "packages/core/src",
      "packages/web/index.html",
      "packages/web/vite.config.ts",
      "scripts/pack-pages.mjs",
      ...sources("web"),
    ],
    ["packages/web/dist/index.html"],
    () => {
      process.stdout.write("Building the pages…\n");
      // Whoever starts this, also a test in its own environment: what is served is what is meant to be served.
      run(bin("vite"), ["build", "packages/web", "--logLevel", "warn"], {
        env: { ...process.env, NODE_ENV: "production" },
      });
      run("node", ["scripts/pack-pages.mjs", "packages/web/dist"]);
    },
  );
}

/** Installs one of Debian's packages. */
function installPackage(name) {
  process.stdout.write(`Installing Debian's ${name}…\n`);
  const sudo = process.getuid?.() === 0 ? [] : ["sudo"];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, "apt-get", ...args];
    run(command, rest, {
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
      stdio: ["ignore", "ignore", "inherit"],
    });
  };
  apt("update", "-qq");
  apt("install", "-y", "-qq", "--no-install-recommends", name);
}

/** Where a Chromium stands, installing Debian's if there is none. */
export function ensureChromium() {
  const places = [process.env.CHROMIUM, "/usr/bin/chromium", "/usr/bin/chromium-browser"].filter(Boolean);
  const find = () => places.find((p) => existsSync(p));
  if (!find()) installPackage("chromium");
  const chromium = find();
  if (!chromium) {
    process.stderr.write("No chromium was found. Install it, or name one in the variable CHROMIUM.\n");
    process.exit(1);
  }
  return chromium;
}

/** The second reader of DXF files, by which the tests hold the first: Debian's python3-ezdxf. */
export function ensureDxfReader() {
  const there = () => spawnSync("/usr/bin/python3", ["-c", "import ezdxf"], { stdio: "ignore" }).status === 0;
  if (!there()) installPackage("python3-ezdxf");
  if (there()) return;
  process.stderr.write("Debian's python3-ezdxf was not found, by which the tests read DXF files again.\n");
  process.exit(1);
}
