/** The comp desk: which comp, and the desk around it. */
import { useQuery } from "@tanstack/react-query";
import { ArchiveRestore, ChevronDown, Copy, Download, Plus, SlidersHorizontal, Trash2 } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { asProblem, type CompRow } from "../../api/client";
import { queries } from "../../api/queries";
import { Shell } from "../../parts/Shell";
import { remember, remembered } from "../../domain/remember";
import { Button, Empty, ProblemNote, Waiting } from "../../ui/basics";
import { DeleteComp, DeletedComps, useDuplicate } from "./CompActions";
import { CompEditor } from "./CompEditor";
import { useDesk } from "./deskState";
import { NewComp } from "./NewComp";
import { text } from "./strings";

const t = text.CompDesk;

export function CompDesk() {
  const params = useParams();
  const project = Number(params["project"]);
  const comps = useQuery(queries.comps(project));
  const deleted = useQuery({ ...queries.deletedComps(project), enabled: comps.data?.length === 0 });
  const go = useNavigate();
  const [asking, setAsking] = useState(false);
  const [deleting, setDeleting] = useState<CompRow | null>(null);
  const [bringing, setBringing] = useState(false);
  const chosen = Number(params["comp"]);
  const rows = comps.data ?? [];
  const known = rows.find((c) => c.id === chosen);

  useEffect(() => {
    if (known) {
      remember(`comp.${project}`, String(known.id));
      return;
    }
    const last = Number(remembered(`comp.${project}`));
    const next = comps.data?.find((c) => c.id === last) ?? comps.data?.[0];
    if (next) void go(`/projects/${project}/comp/${next.id}`, { replace: true });
  }, [comps.data, known, go, project]);

  return (
    <Shell
      title={
        known && (
          <CompMenu
            rows={rows}
            chosen={known}
            project={project}
            onNew={() => setAsking(true)}
            onDelete={() => setDeleting(known)}
            onBring={() => setBringing(true)}
          />
        )
      }
    >
      {comps.isPending && <Waiting what={t.lookingForTheComps} />}
      {comps.error && (
        <div className="p-4">
          <ProblemNote problem={asProblem(comps.error)} />
        </div>
      )}
      {comps.data?.length === 0 && (
        <Empty
          title={t.noCompYet}
          action={
            <div className="flex justify-center gap-2">
              <Button kind="main" onClick={() => setAsking(true)}>
                <Plus className="size-4" />
                {t.newComp}
              </Button>
              {(deleted.data?.length ?? 0) > 0 && (
                <Button onClick={() => setBringing(true)}>{t.deletedComps}</Button>
              )}
            </div>
          }
        >
          {t.aCompLaysElementsOne}
        </Empty>
      )}
      {known && <CompEditor key={`editor ${known.id}`} comp={known.id} project={project} />}
      <DeleteComp
        key={`deleting ${deleting?.id ?? "none"}`}
        comp={deleting}
        project={project}
        onClose={() => setDeleting(null)}
      />
      <DeletedComps project={project} open={bringing} onClose={() => setBringing(false)} />
      <NewComp open={asking} onClose={() => setAsking(false)} project={project} />
    </Shell>
  );
}

interface MenuProps {
  rows: CompRow[];
  chosen: CompRow;
  project: number;
  onNew: () => void;
  onDelete: () => void;
  onBring: () => void;
}

function CompMenu({ rows, chosen, project, onNew, onDelete, onBring }: MenuProps) {
  const duplicate = useDuplicate(rows, project);
  const item =
    "flex items-center gap-2 rounded px-2 py-1.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none";
  return (
    <DropdownMenu.Root>
      <span aria-hidden>/</span>
      <DropdownMenu.Trigger className="flex min-w-0 items-center gap-1 rounded px-1 py-0.5 font-semibold text-ink hover:bg-well">
        <span className="truncate">{chosen.name}</span>
        <ChevronDown className="size-3.5 shrink-0" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className="z-50 max-h-[min(70vh,var(--radix-dropdown-menu-content-available-height))] max-w-sm overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
        >
          {rows.map((row) => (
            <DropdownMenu.Item key={row.id} asChild className={item}>
              <Link to={`/projects/${project}/comp/${row.id}`}>
                <span className="truncate">{row.name}</span>
              </Link>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item className={item} onSelect={onNew}>
            <Plus className="size-3.5" />
            {t.newComp2}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => useDesk.setState({ settings: true })}>
            <SlidersHorizontal className="size-3.5" />
            {t.nameSizeRate}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => duplicate.mutate(chosen)}>
            <Copy className="size-3.5" />
            {t.duplicate}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onDelete}>
            <Trash2 className="size-3.5" />
            {t.deleteIt}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onBring}>
            <ArchiveRestore className="size-3.5" />
            {t.deletedComps}
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={item}>
            <a href={`/api/comps/${chosen.id}/document.json`}>
              <Download className="size-3.5" />
              {t.downloadThisCompsDocument}
            </a>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
