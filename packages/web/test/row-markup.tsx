import type { ComponentProps, ReactNode } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { store } from "../src/state/store.ts";
import { StepRow } from "../src/steps/column/step-row.tsx";

/** Something of the Bench as markup, with the application's own state. */
export const markup = (node: ReactNode): string =>
  renderToStaticMarkup(
    <MemoryRouter>
      <Provider store={store}>{node}</Provider>
    </MemoryRouter>,
  );

const nothing = () => undefined;
type Row = ComponentProps<typeof StepRow>;

/** A row of the steps column as markup: closed, whole and with nothing found, but for what is given. */
export const rowMarkup = (own: Pick<Row, "step" | "number" | "labels"> & Partial<Row>): string =>
  markup(
    <StepRow
      findings={[]}
      units="mm"
      open={false}
      last={false}
      builtToHere={false}
      whole
      sight={{ watch: () => nothing }}
      onRemove={nothing}
      onDragStart={nothing}
      onDragEnd={nothing}
      {...own}
    />,
  );
