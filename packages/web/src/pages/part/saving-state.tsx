import { openPart } from "../../state/part-slice.ts";
import { saveNow } from "../../state/saving.ts";
import { useApp } from "../../state/store.ts";

/** Where saving stands, in words. */
export function SavingState() {
  const id = useApp((s) => openPart(s).id);
  const saving = useApp((s) => openPart(s).saving);
  const conflict = useApp((s) => openPart(s).conflict);
  const unkept = useApp((s) => openPart(s).unkept);
  let text: string;
  let tone = "text-quiet";
  switch (saving.at) {
    case "saved":
      text = "saved";
      break;
    case "waiting":
    case "saving":
      text = "saving…";
      break;
    case "unreachable":
      text = `not saved yet: ${saving.why ?? "no server,"} trying again`;
      tone = "text-warn font-semibold";
      break;
    case "refused":
      text = conflict ? "saved elsewhere too" : `not saved: ${saving.message}`;
      tone = "text-stop font-semibold";
      break;
  }
  if (unkept && saving.at !== "saved") {
    text = `keep this page open: this browser has no room, and ${text}`;
    tone = "text-stop font-semibold";
  }
  return (
    <span data-saving={saving.at} role="status" className={`max-w-64 shrink truncate ${tone}`} title={text}>
      {text}
      {saving.at === "unreachable" && (
        <button type="button" className="ml-2 text-moss underline" onClick={() => void saveNow(id!)}>
          now
        </button>
      )}
    </span>
  );
}
