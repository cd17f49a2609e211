/** Choosing files, or a folder with all that is in it. */
import { FolderPlus, Plus } from "lucide-react";
import { useRef } from "react";
import { named } from "../../api/importFiles";
import { useImporting } from "../../parts/importing";
import { Button, SignButton } from "../../ui/basics";
import { text } from "./strings";

const t = text.ImportButtons;

export function ImportButtons({ project, main }: { project: number; main?: boolean }) {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const bring = useImporting((s) => s.bring);
  const input = (kind: "files" | "folder") => (
    <input
      ref={kind === "files" ? files : folder}
      type="file"
      multiple
      hidden
      aria-label={kind === "files" ? t.filesToImport : t.folderToImport}
      {...(kind === "folder" ? { webkitdirectory: "" } : {})}
      onChange={(event) => {
        const chosen = [...(event.target.files ?? [])].filter((f) => !f.name.startsWith("."));
        void bring(project, named(chosen));
        event.target.value = "";
      }}
    />
  );
  return (
    <span className="flex gap-0.5">
      <Button
        kind={main ? "main" : "plain"}
        className="px-1.5 whitespace-nowrap"
        onClick={() => files.current?.click()}
      >
        {main && <Plus className="size-4" />}
        {t.importWord}
      </Button>
      {main ? (
        <Button onClick={() => folder.current?.click()}>
          <FolderPlus className="size-4" />
          {t.aFolder}
        </Button>
      ) : (
        <SignButton name={t.importAFolder} onClick={() => folder.current?.click()}>
          <FolderPlus className="size-4" />
        </SignButton>
      )}
      {input("files")}
      {input("folder")}
    </span>
  );
}
