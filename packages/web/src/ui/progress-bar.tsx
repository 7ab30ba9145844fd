interface ProgressBarProps {
  /** What it is that takes its time. */
  readonly label: string;
  readonly done: number;
  readonly of: number;
  /** How high and how wide. */
  readonly className: string;
}

/** How far something is that takes its time. */
export function ProgressBar({ label, done, of, className }: ProgressBarProps) {
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={done}
      aria-valuemin={0}
      aria-valuemax={of}
      className={`overflow-hidden rounded bg-hairline ${className}`}
    >
      <div
        className="h-full bg-moss transition-[width]"
        style={{ width: `${(100 * done) / Math.max(1, of)}%` }}
      />
    </div>
  );
}
