/** The space of linear light that a comp's layers are changed and merged in. */
import { transferInWords } from "../../domain/encoding";
import { useSpaces } from "../../parts/useSpaces";
import { Choose, type Option } from "../../ui/Choose";
import { text } from "./strings";

const t = text.WorkingSpace;

/** Its name in words; of one that is not offered any more, what stands in the document. */
export const workingInWords = (name: string, offered: readonly Option[]) =>
  offered.find((o) => o.value === name)?.label ?? transferInWords(name);

interface Props {
  value: string;
  onChange: (name: string) => void;
}

export function WorkingSpace({ value, onChange }: Props) {
  const { working } = useSpaces();
  return (
    <div>
      <span className="mb-0.5 block text-soft">{t.workingSpace}</span>
      <span className="flex">
        <Choose
          name={t.workingSpace}
          value={value}
          options={working}
          placeholder={workingInWords(value, working)}
          onChange={onChange}
        />
      </span>
      <p className="mt-0.5 text-soft">{t.help}</p>
    </div>
  );
}
