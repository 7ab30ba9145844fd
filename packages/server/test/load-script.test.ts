import { spawnSync } from "node:child_process";
import { readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { fileURLToPath } from "node:url";
import { describe, expect, test } from "vitest";

const root = fileURLToPath(new URL("../../../", import.meta.url));
const load = (...args: readonly string[]) =>
  spawnSync("node", ["scripts/load.mjs", ...args], { cwd: root, encoding: "utf8", timeout: 55_000 });
const left = () => readdirSync(tmpdir()).filter((name) => name.startsWith("hillcrest-load-"));

describe("a shop at work, made up", () => {
  test("lists, reads, saves and exports, tells how long 99 of 100 answers take, and leaves nothing behind", () => {
    const before = left();
    const { stdout, stderr, status } = load("--parts", "12", "--seats", "3", "--seconds", "3");
    // Whether this machine is quick enough just now is not asked here.
    expect([0, 1], stderr).toContain(status);
    const [said] = stdout.split("\n").filter((l) => l.startsWith("12 parts"));
    expect(said).toMatch(/^12 parts, 3 seats, 3 s: [1-9]\d* saved, \d+ exported meanwhile$/);
    for (const kind of ["list", "read", "save"])
      expect(stdout).toMatch(
        new RegExp(`(OK  |OVER) ${kind}: 99 of 100 in \\d+ ms, at most \\d+ .* [1-9]\\d* answers`),
      );
    expect(left()).toEqual(before);
  });

  test.each([
    ["--seats", "none"],
    ["--parts", "0"],
    ["--seconds", "1.5"],
  ])("is refused with a sentence where %s is %s", (name, value) => {
    const { stderr, status } = load(name, value);
    expect(status).toBe(1);
    expect(stderr).toBe(`${name} takes a whole number from 1 on; "${value}" is none.\n`);
  });
});
