import { type CellProblem, type ChartRow, readChartText, type TableRule } from "@hillcrest/core";
import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FileButton } from "../../ui/file-button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";

interface PasteRowsProps {
  /** What was pasted into the table itself. */
  readonly pasted: string;
  readonly rule: TableRule;
  readonly reason: string;
  readonly onClose: () => void;
  readonly onTake: (rows: readonly ChartRow[]) => void;
}

/** Longer texts are not shown while they wait; they are read all the same. */
const LONGEST_SHOWN = 20_000;

/** A table pasted from a spreadsheet or read from a CSV file. It comes in whole, or not at all. */
export function PasteRows({ pasted, rule, reason, onClose, onTake }: PasteRowsProps) {
  const [text, setText] = useState(pasted);
  const [file, setFile] = useState(pasted === "" ? undefined : "from the clipboard");
  const [problems, setProblems] = useState<readonly CellProblem[]>([]);
  // What was allowed to be mended stays so for this text.
  const [mends, setMends] = useState<{ decimalCommas?: boolean; sort?: boolean }>({});
  const take = (from: string, more: typeof mends = {}) => {
    const allowed = { ...mends, ...more };
    setMends(allowed);
    const read = readChartText(from, { ...rule, reason, ...allowed });
    if (read.ok) onTake(read.value.rows);
    else setProblems(read.error);
  };
  const put = (next: string, from?: string) => {
    setText(next);
    setFile(from);
    setProblems([]);
    setMends({});
  };
  const commas = problems.some((p) => p.message.includes("decimal comma"));
  const order = problems.some((p) => p.message.includes("stands after"));
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="Rows from a spreadsheet or a CSV file"
      actions={
        <>
          <Button onClick={onClose}>Leave the table as it is</Button>
          {commas && (
            <Button onClick={() => take(text, { decimalCommas: true })}>Read commas as points</Button>
          )}
          {order && <Button onClick={() => take(text, { sort: true })}>Sort, then take</Button>}
          <Button kind="primary" disabled={text === ""} data-take-rows onClick={() => take(text)}>
            Put in the place of the rows
          </Button>
        </>
      }
    >
      <p className="mb-2">
        One row for each bend: thickness, radius, {rule.angleIs}, {rule.gives}. Columns parted by tabs, commas
        or semicolons, with a header or without; millimetres and degrees unless a cell names its unit.
      </p>
      <RowsFile
        file={file}
        onRead={(content, name) => {
          put(content, name);
          take(content);
        }}
      />
      {text.length <= LONGEST_SHOWN && (
        <textarea
          aria-label="Rows"
          rows={9}
          spellCheck={false}
          placeholder={"1.5\t1.5\t90\t0.42"}
          className="num w-full rounded border border-hairline bg-raised p-2"
          value={text}
          onChange={(e) => {
            put(e.currentTarget.value);
          }}
          onPaste={(e) => {
            const pasted = e.clipboardData.getData("text");
            // A table of very many rows would keep the field busy; it is only held.
            if (pasted.length <= LONGEST_SHOWN) return;
            e.preventDefault();
            put(pasted, "from the clipboard");
          }}
        />
      )}
      {problems.length > 0 && <RowProblems problems={problems} />}
    </Dialog>
  );
}

/** A file to take the rows from, and where those that are shown came from. */
function RowsFile({ file, onRead }: { file?: string; onRead: (content: string, name: string) => void }) {
  return (
    <div className="mb-2 flex items-center gap-3">
      <FileButton
        accept=".csv,.tsv,.txt,text/csv"
        purpose="rows"
        onFiles={async ([chosen]) => onRead(await chosen.text(), chosen.name)}
      >
        Choose a CSV file
      </FileButton>
      {file && <span className="truncate text-quiet">{file}</span>}
    </div>
  );
}

const RowProblems = ({ problems }: { problems: readonly CellProblem[] }) => (
  <div role="alert" data-row-problems className="mt-2">
    <p className="mb-1 font-semibold">Nothing was taken. What is wrong:</p>
    <ul className="space-y-0.5">
      {problems.slice(0, 12).map((p, i) => (
        <li key={i}>
          <FindingMark level="stop" /> {p.row > 0 ? `Row ${p.row}, ${p.column}: ` : ""}
          {p.message}
        </li>
      ))}
      {problems.length > 12 && <li className="text-quiet">… and {problems.length - 12} more</li>}
    </ul>
  </div>
);
