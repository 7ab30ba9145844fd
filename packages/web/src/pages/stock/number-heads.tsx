/** Heads of columns of numbers. */
export const NumberHeads = ({ heads }: { heads: readonly string[] }) =>
  heads.map((h) => (
    <th key={h} className="py-1 pl-4 text-right font-medium whitespace-nowrap">
      {h}
    </th>
  ));
