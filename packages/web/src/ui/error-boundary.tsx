import { safeName } from "@hillcrest/core";
import { Component, type ErrorInfo, type ReactNode, useState } from "react";
import { download } from "../state/download.ts";
import { openPart } from "../state/part-slice.ts";
import { useAsk } from "../state/store.ts";
import { Button } from "./button.tsx";

interface State {
  readonly error?: Error;
}

/** When a page fails: says so, and hands the open part over, so that nothing is lost. */
export class ErrorBoundary extends Component<{ children: ReactNode; fallback?: ReactNode }, State> {
  override state: State = {};

  static getDerivedStateFromError(error: Error): State {
    return { error };
  }

  override componentDidCatch(error: Error, info: ErrorInfo): void {
    console.error(error, info.componentStack);
  }

  override render(): ReactNode {
    const { error } = this.state;
    if (!error) return this.props.children;
    if (this.props.fallback !== undefined) return this.props.fallback;
    return <Failed error={error} />;
  }
}

function Failed({ error }: { error: Error }) {
  const ask = useAsk();
  // As it stood when the page failed: leaving the page closes the part.
  const [document] = useState(() => ask(openPart).document);
  return (
    <main className="mx-auto max-w-lg p-10">
      <h1 className="mb-2 text-[18px] font-bold">This page failed</h1>
      <p className="mb-4 leading-relaxed">
        Your part is safe: what you did is saved on the server or kept in this browser until it is. You can
        also download it as it stands, and load the page again.
      </p>
      <pre className="mb-4 overflow-auto rounded bg-raised p-3 text-[12px] text-quiet">{error.message}</pre>
      <div className="flex gap-2">
        <Button kind="primary" onClick={() => location.reload()}>
          Load again
        </Button>
        {document && (
          <Button
            onClick={() =>
              download(
                `${safeName(document.name)}.json`,
                JSON.stringify(document, null, 2),
                "application/json",
              )
            }
          >
            Download the part
          </Button>
        )}
      </div>
    </main>
  );
}
