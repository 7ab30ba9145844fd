import type { RawValues, StockRemark } from "@hillcrest/core";

export interface StockCardFormProps {
  readonly raw: RawValues;
  readonly problems: readonly StockRemark[];
  readonly onLeave: () => void;
}

export const GRID =
  "grid grid-cols-[minmax(9.5rem,1fr)_auto] [&_input[data-field=material]]:w-44 items-baseline gap-x-4 gap-y-1.5";

export const Line = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <div className="contents">
    <dt className="text-quiet">{label}</dt>
    <dd className="text-right">{children}</dd>
  </div>
);
