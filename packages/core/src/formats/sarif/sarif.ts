import type { FindingLevel } from "../../steps/finding.ts";
import type { ReportedFinding } from "../json/findings.ts";

/** Findings of one file, as they are reported. */
export interface CheckedFile {
  /** Where the file is, as a URI or a relative reference. */
  readonly uri: string;
  readonly findings: readonly ReportedFinding[];
}

const LEVELS: Readonly<Record<FindingLevel, "error" | "warning" | "note">> = {
  stop: "error",
  warn: "warning",
  note: "note",
};

/**
 * Findings as a log of SARIF 2.1.0, the open standard (OASIS) that pipelines read: one run, a result
 * for each finding, with its file, and its pieces and step as logical locations.
 */
export function sarifLog(files: readonly CheckedFile[]): object {
  const rules = [...new Set(files.flatMap((f) => f.findings.map(({ rule }) => rule)))].sort();
  const place = new Map(rules.map((id, i) => [id, i]));
  return {
    $schema: "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json",
    version: "2.1.0",
    runs: [
      {
        tool: { driver: { name: "Hillcrest", rules: rules.map((id) => ({ id })) } },
        artifacts: files.map(({ uri }) => ({ location: { uri } })),
        results: files.flatMap(({ uri, findings }, index) =>
          findings.map((f) => ({
            ruleId: f.rule,
            ruleIndex: place.get(f.rule),
            level: LEVELS[f.level],
            message: { text: f.message },
            ...(f.accepted
              ? {
                  suppressions: [
                    { kind: "external", justification: `${f.accepted.reason} (${f.accepted.by})` },
                  ],
                }
              : {}),
            locations: [
              {
                physicalLocation: { artifactLocation: { uri, index } },
                logicalLocations: [
                  ...f.pieces.map((name) => ({ name, kind: name.startsWith("#") ? "bend" : "plate" })),
                  ...(f.step ? [{ name: f.step, kind: "step" }] : []),
                ],
              },
            ],
          })),
        ),
      },
    ],
  };
}
