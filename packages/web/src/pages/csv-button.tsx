import { saveFile } from "../state/exporting.ts";
import { useSend } from "../state/store.ts";

/** Saves the bend list as it is in the open part. */
export function CsvButton() {
  const send = useSend();
  return (
    <button
      type="button"
      className="text-quiet hover:text-ink"
      title="Save the bend list as CSV"
      onClick={() => void send(saveFile("csv"))}
    >
      CSV
    </button>
  );
}
