import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { STEP_KINDS } from "../src/index.ts";

const root = new URL("../../../", import.meta.url).pathname;
const documents = [
  "README.md",
  ...["docs", "docs/decisions", "docs/format"].flatMap((folder) =>
    readdirSync(root + folder).flatMap((name) => (name.endsWith(".md") ? [`${folder}/${name}`] : [])),
  ),
];

/** Where what is named in short may stand. */
const SHORT = ["", "packages/", "packages/core/src/", "packages/web/src/", "packages/server/src/", "docs/"];
const BEGINNING: Readonly<Record<string, string>> = {
  "core/": "packages/core/",
  "web/": "packages/web/",
  "server/": "packages/server/",
};

/** Whether a path that a document names is there, by whichever beginning it is meant. */
function stands(path: string): boolean {
  const begun = Object.entries(BEGINNING).map(([short, whole]) => path.replace(short, whole));
  const inSource = begun.map((p) => p.replace(/^packages\/(\w+)\/(?!src|test)/, "packages/$1/src/"));
  return [path, ...begun, ...inSource].some((p) => SHORT.some((at) => existsSync(root + at + p)));
}

describe("what the documents name is there", () => {
  test.each(documents)("%s", (document) => {
    const text = readFileSync(root + document, "utf8");
    const named = [...text.matchAll(/`([\w.-]+(?:\/[\w.-]+)+\/?)`/g)].map((m) => m[1]);
    const links = [...text.matchAll(/\]\((?!https?:|#)([^)#]+)/g)].map((m) => m[1]);
    const beside = document.slice(0, document.lastIndexOf("/") + 1);
    const paths = named.filter((p) => /\.(tsx?|mjs|md|json)$|\/$/.test(p));
    expect(paths.filter((p) => !stands(p) && !stands(beside + p))).toEqual([]);
    expect(links.filter((p) => !existsSync(root + beside + p))).toEqual([]);
  });
});

describe("what is known of a kind of step", () => {
  const SOURCES = ["core/src", "web/src"].map((p) => new URL(`../../${p}/`, import.meta.url).pathname);
  const files = (folder: string): string[] =>
    readdirSync(folder).flatMap((name) =>
      statSync(folder + name).isDirectory() ? files(`${folder}${name}/`) : [folder + name],
    );

  test("stands in its folder, its face and two registry lines: nothing else asks for it", () => {
    const kinds = STEP_KINDS.map((k) => k.kind).join("|");
    // A step, by whatever name, whose kind is compared with one that there is.
    const asks = new RegExp(
      `\\b(step|s|maker|kind|open|last|document\\.steps\\[\\w+\\]\\??)\\.kind [!=]== "(${kinds})"`,
    );
    const own = /\/steps\/(\w+)\/[^/]+$|\/steps\/faces\/(\w+)\.tsx$/;
    // Migrations know the kinds that there were in a version.
    const asked = SOURCES.flatMap(files).filter((file) => !file.endsWith("/part/migrate.ts"));
    const asking = asked.flatMap((file) => {
      const found = asks.exec(readFileSync(file, "utf8"));
      const [, folder, face] = own.exec(file) ?? [];
      return found && found[2] !== (folder ?? face) ? [`${file}: ${found[0]}`] : [];
    });
    expect(asking).toEqual([]);
  });
});
