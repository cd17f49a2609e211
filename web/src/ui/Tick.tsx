/** Something that is so or not. */
import type { ReactNode } from "react";

interface Props {
  label: ReactNode;
  checked: boolean;
  onChange: (checked: boolean) => void;
  help?: string;
}

export function Tick({ label, checked, onChange, help }: Props) {
  return (
    <label className="flex min-h-6 items-center gap-2" title={help}>
      <input
        type="checkbox"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
        className="size-3.5 shrink-0 accent-[var(--accent)]"
      />
      <span className="min-w-0 [overflow-wrap:anywhere]">{label}</span>
    </label>
  );
}
