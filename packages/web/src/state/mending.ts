import { acceptanceOf, applyCommand, type Finding, freshKey, type Mend, mendCommand } from "@hillcrest/core";
import { requestPreview } from "../worker/check-client.ts";
import { buildActions, findingsOf, openBuild } from "./build-slice.ts";
import { builtNow } from "./building.ts";
import { checkedNow } from "./checking.ts";
import { edit, setPartValues } from "./edits.ts";
import { rememberName } from "./own-name.ts";
import { openPart } from "./part-slice.ts";
import type { Thunk } from "./store.ts";

/** The mends of some findings. */
export const mendsOf = (findings: readonly Finding[]): Mend[] => findings.flatMap((f) => f.mend ?? []);

/** How many previews were begun or ended: one that comes late is known by it. */
const previews = { count: 0 };

/** Shows in both views what mends would make of the part, until it is ended. */
export const previewMends =
  (mends: readonly Mend[]): Thunk =>
  (send, getState) => {
    const { id: part, document } = openPart(getState());
    const command = document && mendCommand(document, mends);
    if (part === undefined || !document || !command) return;
    const done = applyCommand(document, command);
    if (!done.ok) return;
    previews.count++;
    const mine = previews.count;
    void requestPreview(part, done.value.document).then((outcome) => {
      if (mine === previews.count && outcome.kind === "result" && openPart(getState()).document === document)
        send(buildActions.previewed({ part, shape: outcome.value }));
    });
  };

export const endPreview = (): Thunk => (send, getState) => {
  previews.count++;
  const { id: part } = openPart(getState());
  if (part !== undefined) send(buildActions.previewEnded(part));
};

/**
 * Mends as one edit, which one undo takes back. They say by how much, so they are done to the part that they were found
 * in: of a second click that comes before the shape does, only what is still offered then.
 */
export const mend =
  (mends: readonly Mend[]): Thunk<Promise<void>> =>
  async (send, getState) => {
    send(endPreview());
    const stillOffered = (findings: readonly Finding[] = []) => {
      const offered = new Set(mendsOf(findings).map((m) => JSON.stringify(m)));
      return mends.filter((m) => offered.has(JSON.stringify(m)));
    };
    if (!(await builtNow())) return;
    const told = stillOffered(openBuild(getState()).latest?.findings).length === mends.length;
    if (!told && !(await checkedNow())) return;
    const { document } = openPart(getState());
    const command = document && mendCommand(document, stillOffered(findingsOf(openBuild(getState()))));
    if (command) edit(command);
  };

/** Takes a finding as it is, with a reason and a name; the part keeps both. */
export const acceptFinding =
  (finding: Finding, reason: string, by: string): Thunk =>
  (_send, getState) => {
    const accepted = openPart(getState()).document?.accepted ?? [];
    setPartValues({ accepted: [...accepted, acceptanceOf(finding, freshKey(accepted), reason, by)] });
    rememberName(by);
  };

/** A finding counts again. */
export const takeBackAcceptance =
  (key: string): Thunk =>
  (_send, getState) => {
    const rest = (openPart(getState()).document?.accepted ?? []).filter((a) => a.key !== key);
    setPartValues({ accepted: rest.length > 0 ? rest : undefined });
  };
