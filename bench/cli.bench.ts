// What the command line takes besides its work: to say what it can, and for each further file of many.
import { spawnSync } from "node:child_process";
import { copyFileSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { root } from "../e2e/harness.ts";
import { QUICK, tell } from "./tell.ts";

const bin = join(root, "packages/cli/bin/hillcrest.js");
const wall = (...args: readonly string[]): number => {
  const before = performance.now();
  const { status, stderr } = spawnSync("node", args, { encoding: "utf8" });
  if (status !== 0) throw new Error(stderr);
  return performance.now() - before;
};
const least = (times: number, ...args: readonly string[]) =>
  Math.min(...Array.from({ length: times }, () => wall(...args)));

const [help, nothing] = [least(5, bin, "--help"), least(5, "-e", "0")];
const detail = `${help.toFixed(0)} ms against ${nothing.toFixed(0)} ms`;
tell({
  name: "hillcrest --help against node that does nothing",
  value: help / nothing,
  most: 3,
  unit: "×",
  detail,
});

const demo = join(root, "demo");
const one = least(5, bin, "blank", join(demo, "battery-tray.json"));
tell({
  name: "hillcrest blank of one part against node that does nothing",
  value: one / nothing,
  most: 5,
  unit: "×",
  detail: `${one.toFixed(0)} ms against ${nothing.toFixed(0)} ms`,
});
const parts = readdirSync(demo).filter((name) => name.endsWith(".json"));
const folder = mkdtempSync(join(tmpdir(), "hillcrest-bench-"));
const many = QUICK ? 60 : 200;
const copies = Array.from({ length: many }, (_, i) => {
  const name = parts[i % parts.length];
  const to = join(folder, `${i}-${name}`);
  copyFileSync(join(demo, name), to);
  return to;
});
const few = parts.length;
const times = QUICK ? 1 : 3;
/** What each further file takes, ms: nothing that is loaded or made ready once is in it. */
const further = (...args: readonly string[]) =>
  (least(times, bin, ...args, ...copies) - least(times, bin, ...args, ...copies.slice(0, few))) /
  (many - few);
const [blank, check] = [further("blank", "--out", folder), further("check")];
rmSync(folder, { recursive: true });
tell({
  name: "hillcrest blank, each further file of the demo's parts, against check of the same",
  value: blank / check,
  most: 2,
  unit: "×",
  detail: `${blank.toFixed(1)} ms against ${check.toFixed(1)} ms`,
});
