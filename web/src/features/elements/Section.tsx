/** A part of the column beside the picture. */
import type { ReactNode } from "react";
import { FileName } from "../../ui/FileName";

export function Section({
  title,
  action,
  children,
}: {
  title: string;
  action?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="border-b border-line px-3 py-2.5">
      <div className="mb-1.5 flex items-start justify-between gap-2">
        <h2 className="font-semibold [overflow-wrap:anywhere]">
          <FileName name={title} />
        </h2>
        {action}
      </div>
      {children}
    </section>
  );
}
