/** A row of a form: what it is called, and its control. */
import type { ReactNode } from "react";

export function Line({ label, help, children }: { label?: string; help?: string; children: ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 shrink-0 text-soft" title={help}>
        {label}
      </span>
      <div className="flex min-w-0 flex-1">{children}</div>
    </div>
  );
}
