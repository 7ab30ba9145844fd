interface PartPictureProps {
  /** Nothing while it is being made, an empty text when there is none. */
  readonly svg?: string;
  readonly label: string;
  /** Whether the part has a shape at all. */
  readonly made: boolean;
  readonly large?: boolean;
}

/** A picture that the server drew from the part's own geometry: paths and numbers, nothing that was typed. */
export function PartPicture({ svg, label, made, large }: PartPictureProps) {
  if (svg === undefined) return <div />;
  if (!svg)
    return (
      <div className="grid place-items-center text-[12px] text-quiet">
        {made ? "too fine for a small picture" : label === "Folded" ? "no shape yet" : ""}
      </div>
    );
  return (
    <div
      className={`relative min-h-0 min-w-0 [&_svg]:size-full ${large ? "m-7" : "m-3"}`}
      role="img"
      aria-label={label}
    >
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: drawn by our own server from numbers */}
      <div className="absolute inset-0" dangerouslySetInnerHTML={{ __html: svg }} />
    </div>
  );
}
