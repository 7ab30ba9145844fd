import type { FieldOf, FieldSpec } from "@hillcrest/core";
import type { ComponentType } from "react";
import { ChoiceView } from "./choice-view.tsx";
import { DrawnView } from "./drawn-view.tsx";
import type { FieldViewProps } from "./field-look.ts";
import { ItemView } from "./item-view.tsx";
import { WithNestedFields } from "./nested-field.tsx";
import { NumbersView, NumberView } from "./number-views.tsx";
import { PicksView } from "./picks-view.tsx";
import { QuantityView } from "./quantity-view.tsx";
import { RefersManyView, RefersView } from "./refers-views.tsx";
import { RowsView } from "./rows-view.tsx";
import { TextView } from "./text-view.tsx";
import { YesView } from "./yes-view.tsx";

/** The view of each kind of field, for steps, the stock of a part and the stock library alike. */
const VIEWS: { readonly [K in FieldSpec["kind"]]: ComponentType<FieldViewProps<FieldOf<K>>> } = {
  quantity: QuantityView,
  number: NumberView,
  numbers: NumbersView,
  choice: ChoiceView,
  text: TextView,
  yes: YesView,
  refers: RefersView,
  refersMany: RefersManyView,
  drawn: DrawnView,
  item: ItemView,
  picks: PicksView,
  rows: RowsView,
};

/** One field, by its kind. */
export function FieldView(props: FieldViewProps) {
  const View = VIEWS[props.field.kind] as ComponentType<FieldViewProps>;
  if (!NESTING.has(props.field.kind)) return <View {...props} />;
  return (
    <WithNestedFields value={FieldView}>
      <View {...props} />
    </WithNestedFields>
  );
}

/** The kinds of field that hold others. */
const NESTING: ReadonlySet<FieldSpec["kind"]> = new Set(["picks", "rows", "item"]);
