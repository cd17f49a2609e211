/** Where a delivery goes: among the project's own or into a folder of the server, the folder in it, the name. */
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import type { OrderDraft } from "../../domain/order";
import { TextField } from "../../ui/Ask";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { text } from "./strings";

const t = text.PlaceFields;

/** Stands for no folder of the server, which a choice cannot. */
const OWN = "own";

interface Props {
  draft: OrderDraft;
  onDraft: (draft: OrderDraft) => void;
}

export function PlaceFields({ draft, onDraft }: Props) {
  const folders = useQuery(queries.deliveryFolders()).data ?? [];
  // a preset may name one that is not registered any more: it stays to be seen, and the order says so
  const known = folders.some((f) => f.path === draft.server) || !draft.server;
  const shown = known ? folders : [...folders, { path: draft.server, there: false }];
  const field = (key: "folder" | "name") => ({
    value: draft[key],
    onChange: (value: string) => onDraft({ ...draft, [key]: value }),
  });
  return (
    <>
      {shown.length > 0 && (
        <Line label={t.into} help={t.intoHelp}>
          <Choose
            name={t.into}
            value={draft.server || OWN}
            options={[
              { value: OWN, label: t.projectsOwn },
              ...shown.map((f) => ({
                value: f.path,
                label: f.path,
                ...(f.there ? {} : { help: t.notThere }),
              })),
            ]}
            onChange={(server) => onDraft({ ...draft, server: server === OWN ? "" : server })}
          />
        </Line>
      )}
      <div className="grid grid-cols-2 gap-2">
        <TextField label={t.folder} {...field("folder")} />
        <TextField label={t.fileName} {...field("name")} />
      </div>
      <details className="text-soft">
        <summary className="cursor-default text-accent">{t.tokens}</summary>
        <dl className="mt-1 grid grid-cols-[5.5rem_1fr] gap-x-2">
          {Object.entries(t.everyToken).map(([token, meaning]) => (
            <div key={token} className="contents">
              <dt className="num text-ink">{`{${token}}`}</dt>
              <dd>{meaning}</dd>
            </div>
          ))}
        </dl>
        <p className="mt-1">{draft.server ? t.liesOnServer : t.liesInProject}</p>
      </details>
    </>
  );
}
