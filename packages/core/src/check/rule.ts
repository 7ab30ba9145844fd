import type { PartBuild } from "../part/build.ts";
import type { Finding } from "../steps/finding.ts";

/** One question about whether a part can be made. Gives a finding for each place where the answer is no. */
export type CheckRule = (build: PartBuild) => readonly Finding[];
