/** Files that a project brings besides elements: what there is, one more added, what is wrong with it. */
import { useMutation } from "@tanstack/react-query";
import { useRef, useState, type ReactNode } from "react";
import { asProblem } from "../api/client";
import { Ask } from "../ui/Ask";
import { Button, ProblemNote } from "../ui/basics";
import { text } from "./strings";

const t = text.BroughtFiles;

interface Props<Found> {
  title: string;
  /** What they are for. */
  help: string;
  /** What the list is called, and the file to add. */
  list: string;
  file: string;
  accept: string;
  /** While a file is sent and tried. */
  checking: string;
  add: string;
  send: (chosen: File, signal: AbortSignal) => Promise<Found>;
  onBrought: (found: Found) => void;
  /** What went wrong besides. */
  error: unknown;
  onClose: () => void;
  /** The list's items. */
  children: ReactNode;
}

export function BroughtFiles<Found>(props: Props<Found>) {
  const file = useRef<HTMLInputElement>(null);
  const [stop, setStop] = useState<AbortController | null>(null);
  const bring = useMutation({
    mutationFn: (chosen: File) => {
      const controller = new AbortController();
      setStop(controller);
      return props.send(chosen, controller.signal);
    },
    onSuccess: props.onBrought,
  });
  const stopped = bring.error instanceof DOMException && bring.error.name === "AbortError";
  const error = (stopped ? null : bring.error) ?? props.error;
  return (
    <Ask title={props.title} open onClose={props.onClose}>
      <p className="mb-2 text-soft">{props.help}</p>
      <ul className="space-y-1.5" aria-label={props.list}>
        {props.children}
      </ul>
      {Boolean(error) && (
        <div className="mt-2">
          <ProblemNote problem={asProblem(error)} />
        </div>
      )}
      <input
        ref={file}
        type="file"
        hidden
        accept={props.accept}
        aria-label={props.file}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) bring.mutate(chosen);
          event.target.value = "";
        }}
      />
      {bring.isPending && (
        <div className="mt-3 flex items-center gap-2">
          <span role="status" className="mr-auto text-soft">
            {props.checking}
          </span>
          <Button onClick={() => stop?.abort()}>{t.cancel}</Button>
        </div>
      )}
      <div className="mt-4 flex items-center justify-end gap-2">
        <Button autoFocus onClick={props.onClose}>
          {t.close}
        </Button>
        <Button kind="main" disabled={bring.isPending} onClick={() => file.current?.click()}>
          {props.add}
        </Button>
      </div>
    </Ask>
  );
}

/** One of them, with what is to be said of it. */
export function BroughtFile({
  name,
  takeOut,
  children,
}: {
  name: string;
  /** Takes it out of the project, where it can be. */
  takeOut?: ReactNode;
  children: ReactNode;
}) {
  return (
    <li className="rounded-md border border-line bg-card px-2.5 py-2">
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 font-medium [overflow-wrap:anywhere]">{name}</span>
        {takeOut}
      </div>
      {children}
    </li>
  );
}
