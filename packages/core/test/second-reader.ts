import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** What the second reader found in a file: each entity with its layer first. */
export interface SecondReading {
  readonly version: string;
  readonly units: number;
  readonly complaints: readonly string[];
  readonly layers: readonly string[];
  readonly kinds: Readonly<Record<string, number>>;
  readonly circles: readonly (readonly [string, number, number, number, number])[];
  readonly arcs: readonly (readonly [string, number, number, number, number, number])[];
  readonly loops: readonly (readonly [string, boolean, number, number])[];
  readonly lines: readonly (readonly [string, number, number, number, number, number])[];
  readonly texts: readonly (readonly [string, string, number])[];
}

/** Reads DXF texts, by their names, with Debian's python3-ezdxf, all in one run. */
export function readBySecond(files: ReadonlyMap<string, string>): Map<string, SecondReading> {
  const folder = mkdtempSync(join(tmpdir(), "hillcrest-dxf-"));
  try {
    for (const [name, text] of files) writeFileSync(join(folder, `${name}.dxf`), text);
    const script = new URL("./read_dxf.py", import.meta.url).pathname;
    const answer = execFileSync("/usr/bin/python3", [script, folder], {
      maxBuffer: 1 << 30,
      encoding: "utf8",
    });
    const read = JSON.parse(answer) as Record<string, SecondReading>;
    return new Map(Object.entries(read).map(([name, r]) => [name.replace(/\.dxf$/, ""), r]));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
