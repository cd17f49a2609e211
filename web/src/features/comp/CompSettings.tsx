/** A comp's name, size, rate and frames, changed at any time; what becomes of its layers is said. */
import { useState } from "react";
import type { CompDocument } from "../../domain/comp";
import { Ask, TextField } from "../../ui/Ask";
import { Button } from "../../ui/basics";
import { useDesk } from "./deskState";
import { parsedSettings, type SettingsForm } from "./settings";
import type { DocumentStore } from "./documentStore";
import { WorkingSpace } from "./WorkingSpace";
import { text } from "./strings";

const t = text.CompSettings;

export function CompSettings({ store }: { store: DocumentStore }) {
  const open = useDesk((d) => d.settings);
  const close = () => useDesk.setState({ settings: false });
  return (
    <Ask title={t.thisComp} open={open} onClose={close}>
      <Form store={store} onClose={close} />
    </Ask>
  );
}

const formOf = (d: CompDocument): SettingsForm => ({
  name: d.name,
  width: String(d.width),
  height: String(d.height),
  rate: d.rate,
  first: String(d.first),
  last: String(d.last),
  working: d.working,
});

interface Props {
  store: DocumentStore;
  onClose: () => void;
}

function Form({ store, onClose }: Props) {
  const document = store((s) => s.document);
  const [form, setForm] = useState(() => formOf(document));
  const next = parsedSettings(form);
  const field = (key: keyof SettingsForm) => ({
    value: form[key],
    onChange: (value: string) => setForm({ ...form, [key]: value }),
  });
  const told =
    "problem" in next
      ? []
      : [
          next.width !== document.width || next.height !== document.height ? t.sizeChanges : "",
          next.rate !== document.rate ? t.rateChanges : "",
          next.first !== document.first || next.last !== document.last ? t.framesChange : "",
          next.working !== document.working ? t.workingChanges : "",
        ].filter(Boolean);
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        if ("problem" in next) return;
        store.getState().commit((d) => ({ ...d, ...next }), t.settingsOf(next.name));
        const { frame } = useDesk.getState();
        useDesk.setState({
          frame: Math.min(next.last, Math.max(next.first, frame)),
          range: null,
          view: null,
        });
        onClose();
      }}
    >
      <TextField label={t.name} {...field("name")} autoFocus />
      <div className="grid grid-cols-2 gap-3">
        <TextField label={t.width} {...field("width")} />
        <TextField label={t.height} {...field("height")} />
        <TextField label={t.first} {...field("first")} />
        <TextField label={t.last} {...field("last")} />
        <TextField label={t.rate} {...field("rate")} help={t.rateExamples} />
      </div>
      <WorkingSpace value={form.working} onChange={(working) => setForm({ ...form, working })} />
      {told.length > 0 && (
        <ul role="note" className="list-disc space-y-1 rounded-md border border-line bg-card py-2 pr-3 pl-6">
          {told.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {"problem" in next && (
        <p role="alert" className="text-error">
          {next.problem}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>{t.cancel}</Button>
        <Button kind="main" type="submit" disabled={"problem" in next}>
          {t.change}
        </Button>
      </div>
    </form>
  );
}
