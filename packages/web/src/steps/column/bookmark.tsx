import { setPartValues } from "../../state/edits.ts";

interface BookmarkProps {
  readonly after: string;
  readonly number: number;
  /** Whether the part is built up to here. */
  readonly set: boolean;
}

/** Builds the part up to here. It stands between two sentences; one is there when it is set, others show when pointed at. */
export function Bookmark({ after, number, set }: BookmarkProps) {
  const put = () => setPartValues({ builtTo: set ? undefined : after });
  if (set) {
    return (
      <button
        type="button"
        data-bookmark={after}
        className="flex w-full items-center gap-2 px-3.5 py-1 text-[12px] text-moss"
        title="Build everything again"
        onClick={put}
      >
        <span className="grow border-t border-dashed border-moss" />
        built up to here ×
        <span className="grow border-t border-dashed border-moss" />
      </button>
    );
  }
  return (
    <button
      type="button"
      data-bookmark={after}
      aria-label={`Build up to step ${number}`}
      className="group/mark relative z-[5] -my-[5px] block h-[10px] w-full opacity-0 hover:opacity-100 focus-visible:opacity-100"
      onClick={put}
    >
      <span className="absolute inset-x-3.5 top-1/2 flex -translate-y-1/2 items-center gap-2 text-[11px] text-moss">
        <span className="grow border-t border-dashed border-moss" />
        <span className="rounded bg-panel px-1">build up to here</span>
        <span className="grow border-t border-dashed border-moss" />
      </span>
    </button>
  );
}
