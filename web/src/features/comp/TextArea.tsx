/** Several lines of text: seen in the picture while they are typed, kept when the field is left. */
import { useRef } from "react";

interface Props {
  name: string;
  /** As it is shown, with what is being typed. */
  value: string;
  onDraft: (text: string) => void;
  onCommit: (text: string) => void;
}

export function TextArea({ name, value, onDraft, onCommit }: Props) {
  const changed = useRef(false);
  return (
    <textarea
      aria-label={name}
      dir="auto"
      rows={Math.min(8, Math.max(2, value.split("\n").length))}
      maxLength={20000}
      value={value}
      onChange={(event) => {
        changed.current = true;
        onDraft(event.target.value);
      }}
      onBlur={() => {
        if (changed.current) onCommit(value);
        changed.current = false;
      }}
      onKeyDown={(event) => event.stopPropagation()}
      className="w-full rounded-md border border-line bg-card px-2 py-1"
    />
  );
}
