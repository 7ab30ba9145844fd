import type { PartBuild, PartDocument } from "@hillcrest/core";

/** A part in a few lines: its blank, its folded size, its bends, and what is found on it. */
export function describePart(document: PartDocument, build: PartBuild): string {
  const { blank, folded } = build;
  const lines = [document.name];
  if (blank && folded) {
    const box = folded.box.max.map((v, k) => (v - folded.box.min[k]).toFixed(2)).join(" × ");
    lines.push(
      `  blank   ${blank.width.toFixed(2)} × ${blank.height.toFixed(2)} mm, ${blank.openings.length} openings`,
    );
    lines.push(`  folded  ${box} mm, ${folded.mass.toFixed(3)} kg`);
    lines.push(`  bends   ${build.bends.length}`);
  } else lines.push("  nothing to cut yet");
  for (const f of build.findings) lines.push(`  ${f.level}: ${f.message}`);
  return lines.join("\n");
}

/** Says on the error stream what is found on a part. */
export function tellFindings(document: PartDocument, build: PartBuild): void {
  for (const f of build.findings) process.stderr.write(`${document.name}: ${f.level}: ${f.message}\n`);
}
