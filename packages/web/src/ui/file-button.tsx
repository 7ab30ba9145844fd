import { type ReactNode, useRef } from "react";
import { Button } from "./button.tsx";

interface FileButtonProps {
  /** What kinds of file are offered, as the attribute `accept` takes them. */
  readonly accept: string;
  readonly multiple?: boolean;
  /** What the files are for: the input's `data-files`. */
  readonly purpose: string;
  readonly onFiles: (files: readonly File[]) => Promise<void> | void;
  readonly children: ReactNode;
}

/** A button that asks for files. */
export function FileButton({ accept, multiple, purpose, onFiles, children }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        multiple={multiple}
        hidden
        data-files={purpose}
        onChange={async (e) => {
          const chosen = e.currentTarget;
          if (chosen.files?.length) await onFiles([...chosen.files]);
          // The same file can then be chosen again.
          chosen.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>{children}</Button>
    </>
  );
}
