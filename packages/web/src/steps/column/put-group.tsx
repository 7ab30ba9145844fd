import { groupCommand, type KeptGroup, type PickedThing, type PickOf, picksIn } from "@hillcrest/core";
import { useState } from "react";
import { edit, namesOfPicks } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { useItems } from "../../state/stock.ts";
import { useAsk, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";

const SORTS: readonly PickOf[] = ["edge", "corner", "bend", "plate"];

/** The groups that the shop keeps, to be put into the part: on what is picked, or asking for what they stand on. */
export function KeptGroups({ onPut }: { onPut: () => void }) {
  const groups = useItems("groups");
  const ask = useAsk();
  const send = useSend();
  const [told, setTold] = useState<string>();
  if (groups.length === 0) return null;
  const put = (group: KeptGroup) => {
    const { document } = ask(openPart);
    if (!document) return;
    const picks = ask((s) => s.view.picks);
    const picked = SORTS.flatMap((of) => namesOfPicks(picks, of).map((name): PickedThing => ({ of, name })));
    const command = groupCommand(document, group, picked);
    if (!command.ok) return setTold(command.error);
    const before = document.steps.length;
    onPut();
    edit(command.value);
    send(viewActions.pickCleared());
    const added = ask(openPart).document?.steps.slice(before) ?? [];
    const asking = added.flatMap((step) =>
      picksIn(step)
        .filter(({ field, picks: own }) => !field.optional && own.length === 0)
        .map(({ field }) => ({ step, field })),
    )[0];
    const opened = asking?.step ?? added[0];
    if (opened) send(viewActions.stepOpened(opened.id));
    if (asking)
      send(
        viewActions.pickingStarted({
          step: asking.step.id,
          field: asking.field.key,
          of: asking.field.of,
          single: asking.field.single,
        }),
      );
  };
  return (
    <section className="mb-1.5">
      <h3 className="mb-0.5 text-[11.5px] font-semibold text-quiet">Kept by the shop</h3>
      <div className="flex flex-wrap gap-[5px]">
        {groups.map((g) => (
          <button
            key={g.id}
            type="button"
            data-put-group={g.id}
            title={g.note || `${g.steps.length} steps`}
            className="max-w-full truncate rounded-md border border-hairline bg-raised px-2 py-1 hover:border-moss"
            onClick={() => put(g)}
          >
            {g.name}
          </button>
        ))}
      </div>
      {told && (
        <p role="alert" className="mt-1 text-[12.5px] leading-snug text-stop">
          {told}
        </p>
      )}
    </section>
  );
}
