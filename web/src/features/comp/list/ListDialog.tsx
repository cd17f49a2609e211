/** The list of a comp: its slots on the left, a row for every version on the right, each with its picture. */
import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { compCalls, type CellProblem } from "../../../api/comps";
import { queries } from "../../../api/queries";
import { SignButton } from "../../../ui/basics";
import { useDesk } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";
import { RowsTable } from "./RowsTable";
import { SlotsColumn } from "./SlotsColumn";

const t = text.ListDialog;

interface Props {
  store: DocumentStore;
  comp: number;
  project: number;
}

export function ListDialog(props: Props) {
  const set = useDesk((d) => d.set);
  const open = useDesk((d) => d.list);
  return (
    <Dialog.Root open={open} onOpenChange={(list) => set({ list })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 flex h-[88vh] w-[94vw] max-w-[100rem] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg border border-line bg-panel shadow-xl outline-none"
        >
          <div className="flex items-center justify-between border-b border-line px-4 py-2">
            <Dialog.Title className="text-[15px] font-semibold">{t.list}</Dialog.Title>
            <SignButton name={t.close} onClick={() => set({ list: false })}>
              <X className="size-4" />
            </SignButton>
          </div>
          <List {...props} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const NONE: CellProblem[] = [];

function List({ store, comp, project }: Props) {
  const document = store((s) => s.document);
  const revision = store((s) => s.comp.revision);
  const saving = store((s) => s.saving);
  const elements = useQuery(queries.elements(project));
  const comps = useQuery(queries.comps(project));
  const checked = useQuery({
    queryKey: ["list", comp, document.slots, document.rows, document.layers],
    queryFn: () => compCalls.checkList(comp, document),
    placeholderData: (before) => before,
  });
  const names = [
    ...(elements.data ?? []).filter((e) => e.state === "ready").map((e) => e.name),
    ...(comps.data ?? []).filter((c) => c.id !== comp).map((c) => c.name),
  ];
  return (
    <div className="flex min-h-0 flex-1">
      <SlotsColumn store={store} known={checked.data?.slots ?? []} />
      <RowsTable
        {...{ store, comp, project, names }}
        slots={checked.data?.slots ?? []}
        problems={checked.data?.problems ?? NONE}
        // a picture is of what is saved: while something is on its way the one before stays
        revision={saving ? null : revision}
      />
    </div>
  );
}
