/** A dialog, only for what must be answered before going on. */
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}

export function Ask({ title, open, onClose, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[30rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-lg border border-line bg-panel p-4 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-[15px] font-semibold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** A labelled line of text in a form. */
export function TextField({
  label,
  value,
  onChange,
  type = "text",
  help,
  ...rest
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  type?: string;
  help?: string;
  autoFocus?: boolean;
  autoComplete?: string;
  placeholder?: string;
}) {
  return (
    <label className="block">
      <span className="mb-0.5 block text-soft">{label}</span>
      <input
        type={type}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-8 w-full rounded-md border border-line bg-card px-2"
        {...rest}
      />
      {help && <span className="mt-0.5 block text-soft">{help}</span>}
    </label>
  );
}
