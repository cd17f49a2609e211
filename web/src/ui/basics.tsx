/** Small parts every desk uses. */
import type { ButtonHTMLAttributes, ReactNode } from "react";
import { Tooltip } from "radix-ui";
import type { Problem } from "../api/client";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: "plain" | "main" | "quiet" };

const BUTTON: Record<NonNullable<ButtonProps["kind"]>, string> = {
  plain: "border border-line bg-card hover:bg-well",
  main: "border border-accent bg-accent text-on-accent hover:opacity-90",
  quiet: "hover:bg-well",
};

export function Button({ kind = "plain", className = "", type = "button", ...rest }: ButtonProps) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-7 items-center justify-center gap-1.5 rounded-md px-2.5 py-1 font-medium disabled:opacity-50 ${BUTTON[kind]} ${className}`}
      {...rest}
    />
  );
}

/** A button that is only a sign; its name is shown when it is pointed at or focused. */
export function SignButton({ name, children, ...rest }: ButtonProps & { name: string; children: ReactNode }) {
  return (
    <Tip text={name}>
      <Button kind="quiet" aria-label={name} {...rest} className={`min-w-7 px-1 ${rest.className ?? ""}`}>
        {children}
      </Button>
    </Tip>
  );
}

export function Tip({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Tooltip.Root delayDuration={400}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          className="pointer-events-none z-50 max-w-72 rounded-md bg-ink px-2 py-1 text-panel shadow"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** What went wrong, where, and what to do; with what can be done at once. */
export function ProblemNote({ problem, children }: { problem: Problem; children?: ReactNode }) {
  return (
    <div role="alert" className="flex items-start gap-2 rounded-md border border-error bg-card px-3 py-2">
      <span
        aria-hidden
        className="mt-0.5 grid size-4 shrink-0 place-items-center rounded-full bg-error text-[11px] font-bold text-card"
      >
        !
      </span>
      <div className="min-w-0">
        <p className="break-words font-medium">{problem.message}</p>
        {problem.advice && <p className="break-words text-soft">{problem.advice}</p>}
        {children && <div className="mt-2 flex flex-wrap gap-2">{children}</div>}
      </div>
    </div>
  );
}

/** An empty place: what goes there and how, with one thing to do. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}) {
  return (
    <div className="grid h-full place-items-center p-6 text-center">
      <div className="max-w-sm">
        <p className="text-[15px] font-semibold">{title}</p>
        <p className="mt-1 text-soft">{children}</p>
        {action && <div className="mt-3 flex justify-center">{action}</div>}
      </div>
    </div>
  );
}

export function Waiting({ what }: { what: string }) {
  return (
    <div role="status" className="grid h-full place-items-center p-6 text-soft">
      {what} …
    </div>
  );
}

export function ProgressBar({ done, total, name }: { done: number; total: number; name: string }) {
  const share = total > 0 ? Math.min(1, done / total) : 0;
  return (
    <div
      role="progressbar"
      aria-label={name}
      aria-valuemin={0}
      aria-valuemax={total}
      aria-valuenow={done}
      className="h-1.5 w-full overflow-hidden rounded-full bg-well"
    >
      <div className="h-full rounded-full bg-accent" style={{ width: `${share * 100}%` }} />
    </div>
  );
}
