/** All commands by name with their keys, shown under `?`: typed at, chosen by arrow keys, done by Enter. */
import { Keyboard } from "lucide-react";
import { useEffect, useId, useState, type KeyboardEvent as Key } from "react";
import { Ask } from "../../ui/Ask";
import { SignButton } from "../../ui/basics";
import { found, keyShown, type Command } from "./commands";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.CommandList;

export function CommandList({ store }: { store: DocumentStore }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea");
      if (event.key !== "?" || typing) return;
      event.preventDefault(); // or it would be typed into the list's own field
      setOpen(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <>
      <SignButton name={t.commandsAndKeys} onClick={() => setOpen(true)} className="!min-h-5">
        <Keyboard className="size-4" />
      </SignButton>
      <Ask title={t.commandsAndKeys2} open={open} onClose={() => setOpen(false)}>
        <Found store={store} onDone={() => setOpen(false)} />
      </Ask>
    </>
  );
}

function Found({ store, onDone }: { store: DocumentStore; onDone: () => void }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const id = useId();
  const commands = found(text);
  const chosen = Math.min(at, commands.length - 1);
  const can = (command: Command) => command.can?.(store) ?? true;
  const run = (command: Command | undefined) => {
    if (!command || !can(command)) return;
    onDone();
    command.run(store);
  };
  const onKey = (event: Key) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by) {
      event.preventDefault();
      const next = Math.max(0, Math.min(commands.length - 1, chosen + by));
      setAt(next);
      document.getElementById(`${id}-${next}`)?.scrollIntoView({ block: "nearest" });
    } else if (event.key === "Enter") {
      event.preventDefault();
      run(commands[chosen]);
    }
  };
  return (
    <>
      <input
        autoFocus
        aria-label={t.whatDoYouWantTo}
        placeholder={t.typeAPartOfIts}
        role="combobox"
        aria-expanded
        aria-controls={id}
        aria-activedescendant={commands.length > 0 ? `${id}-${chosen}` : undefined}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKey}
        className="mb-2 w-full rounded-md border border-line bg-card px-2 py-1"
      />
      <ul id={id} role="listbox" aria-label={t.commands} className="h-[50vh] overflow-auto">
        {commands.length === 0 && <li className="px-2 py-1 text-soft">{t.nothingIsCalledThat}</li>}
        {commands.map((command, i) => (
          <li
            key={command.name}
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === chosen}
            aria-disabled={!can(command)}
            onPointerMove={() => setAt(i)}
            onClick={() => run(command)}
            className="flex cursor-default gap-3 rounded px-2 py-0.5 aria-disabled:text-soft aria-selected:bg-accent-soft"
          >
            <span className="w-16 shrink-0 text-soft">{command.group}</span>
            <span className="min-w-0 flex-1">{command.name}</span>
            <span className="num shrink-0 font-medium">{keyShown(command)}</span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-soft">{t.inThePictureTheWheel}</p>
    </>
  );
}
