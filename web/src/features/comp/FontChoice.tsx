/** The font of a text: those that ship, and the project's own files, which are added here. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Files, Trash2 } from "lucide-react";
import { useState } from "react";
import { useParams } from "react-router";
import { fontCalls, type FontFileOut } from "../../api/fonts";
import { queries } from "../../api/queries";
import { counted } from "../../domain/words";
import { BroughtFile, BroughtFiles } from "../../parts/BroughtFiles";
import { SignButton } from "../../ui/basics";
import { Choose, type Option } from "../../ui/Choose";
import { text } from "./strings";

const t = text.FontChoice;
const NONE: FontFileOut[] = [];

interface Props {
  name: string;
  help?: string | undefined;
  /** Those that ship. */
  shipped: readonly Option[];
  value: string;
  onChange: (value: string) => void;
}

export function FontChoice({ name, help, shipped, value, onChange }: Props) {
  const project = Number(useParams()["project"]);
  const files = useQuery(queries.fonts(project)).data;
  const [open, setOpen] = useState(false);
  const own = (files ?? NONE).flatMap((file) => file.fonts);
  const options: Option[] = [
    ...shipped,
    ...own.map((font) => ({ value: font.key, label: font.title, group: t.ofTheProject })),
  ];
  const chosen = own.find((font) => font.key === value);
  const gone = files && !chosen && !shipped.some((font) => font.value === value);
  return (
    <>
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft" title={help}>
          {name}
        </span>
        <Choose name={name} value={value} options={options} onChange={onChange} placeholder={t.gone} live />
        <SignButton name={t.fontFiles} onClick={() => setOpen(true)}>
          <Files className="size-3.5" />
        </SignButton>
      </div>
      {gone && <p className="text-error">{t.notHere}</p>}
      {chosen && <p className="pl-[5.5rem] text-soft">{t.weights(chosen.lightest, chosen.boldest)}</p>}
      {open && (
        <FontFiles
          project={project}
          files={files ?? NONE}
          onChoose={onChange}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

function FontFiles({
  project,
  files,
  onChoose,
  onClose,
}: {
  project: number;
  files: FontFileOut[];
  onChoose: (font: string) => void;
  onClose: () => void;
}) {
  const cache = useQueryClient();
  const refresh = () => cache.invalidateQueries({ queryKey: ["fonts", project] });
  const takeOut = useMutation({
    mutationFn: (key: string) => fontCalls.takeOut(project, key),
    onSuccess: refresh,
  });
  return (
    <BroughtFiles
      title={t.fontFiles}
      help={t.whatTheyAreFor}
      list={t.fontFiles}
      file={t.file}
      accept=".ttf,.otf,.ttc,.otc"
      checking={t.checking}
      add={t.add}
      send={(chosen, signal) => fontCalls.bring(project, chosen, signal)}
      onBrought={(file) => {
        // known before it is chosen: else the text would be in a font that is not there for a moment
        cache.setQueryData<FontFileOut[]>(["fonts", project], (old = NONE) => [
          ...old.filter((one) => one.key !== file.key),
          file,
        ]);
        void refresh();
        onChoose(file.key);
      }}
      error={takeOut.error}
      onClose={onClose}
    >
      {files.length === 0 && <li className="text-soft">{t.noneYet}</li>}
      {files.map((file) => (
        <BroughtFile
          key={file.key}
          name={file.name}
          takeOut={
            <SignButton name={t.takeOut(file.name)} onClick={() => takeOut.mutate(file.key)}>
              <Trash2 className="size-3.5" />
            </SignButton>
          }
        >
          {file.problem && <p className="text-error">{file.problem}</p>}
          {file.fonts.map((font) => (
            <p key={font.key} className="num text-soft">
              {t.holds(font.title, counted(font.letters, "letter"), t.weights(font.lightest, font.boldest))}
            </p>
          ))}
        </BroughtFile>
      ))}
    </BroughtFiles>
  );
}
