/** The set-up from top to bottom: which one, its sections, and the render it leads to. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import { useState } from "react";
import { asProblem, client, take } from "../../api/client";
import { queries } from "../../api/queries";
import type { RenderOut, RenderSetup, SceneFacts, SceneOut, SetUpOut } from "../../api/scenes";
import { counted } from "../../domain/words";
import { Ask, TextField } from "../../ui/Ask";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { CameraSection } from "./CameraSection";
import { FilesSection } from "./FilesSection";
import { LensSection } from "./LensSection";
import { LightSection } from "./LightSection";
import { LayersSection, ObjectsSection } from "./objectSections";
import { SceneNotes } from "./SceneList";
import { AlphaSection, FramesSection, QualitySection } from "./sections";
import { firstSetup, useSetup } from "./setupStore";
import { text } from "./strings";

const t = text.SetupPanel;

interface Props {
  project: number;
  scene: SceneOut;
  facts: SceneFacts;
  setup: RenderSetup;
  frame: number;
}

export function SetupPanel({ project, scene, facts, setup, frame }: Props) {
  const elements = useQuery(queries.elements(project));
  return (
    <section aria-label={t.setUp} className="flex min-h-0 flex-col border-l border-line">
      <Which scene={scene} facts={facts} setup={setup} />
      <div className="min-h-0 flex-1 overflow-auto">
        <div className="px-3 py-2 empty:hidden">
          <SceneNotes scene={scene} />
        </div>
        <FramesSection setup={setup} facts={facts} />
        <CameraSection setup={setup} facts={facts} scene={scene} frame={frame} />
        <QualitySection setup={setup} facts={facts} />
        <AlphaSection setup={setup} facts={facts} />
        <LightSection setup={setup} facts={facts} frame={frame} elements={elements.data ?? []} />
        <LensSection setup={setup} facts={facts} />
        <ObjectsSection setup={setup} facts={facts} />
        <LayersSection setup={setup} facts={facts} />
        <FilesSection setup={setup} />
      </div>
      <RenderForm project={project} scene={scene} setup={setup} />
    </section>
  );
}

const NEW = " ";

function Which({ scene, facts, setup }: Omit<Props, "project" | "frame">) {
  const setups = useQuery(queries.setups(scene.id));
  const { working, open, undo, redo } = useSetup();
  const [asking, setAsking] = useState(false);
  const rows = setups.data ?? [];
  const known = rows.some((r) => r.name === working?.name);
  return (
    <div className="flex items-center gap-1 border-b border-line px-3 py-2">
      <Choose
        name={t.keptSetUp}
        value={known ? working!.name : NEW}
        options={[{ value: NEW, label: t.newSetUp }, ...rows.map((r) => ({ value: r.name, label: r.name }))]}
        onChange={(name) => {
          const row = rows.find((r) => r.name === name);
          open(scene.id, row?.name ?? "", row?.document ?? firstSetup(facts.seconds));
        }}
      />
      <SignButton name={t.undo} disabled={!working?.past.length} onClick={undo}>
        <Undo2 className="size-4" />
      </SignButton>
      <SignButton name={t.redo} disabled={!working?.future.length} onClick={redo}>
        <Redo2 className="size-4" />
      </SignButton>
      <Button onClick={() => setAsking(true)} className={working?.changed ? "border-accent text-accent" : ""}>
        {t.save}
      </Button>
      {asking && <SaveAs scene={scene.id} setup={setup} rows={rows} onClose={() => setAsking(false)} />}
    </div>
  );
}

interface SaveProps {
  scene: number;
  setup: RenderSetup;
  rows: SetUpOut[];
  onClose: () => void;
}

function SaveAs({ scene, setup, rows, onClose }: SaveProps) {
  const cache = useQueryClient();
  const { working, kept } = useSetup();
  const [name, setName] = useState(working?.name ?? "");
  const there = rows.find((r) => r.name === name.trim());
  const save = useMutation({
    mutationFn: () =>
      take<SetUpOut>(
        client.POST("/api/scenes/{scene_id}/setups", {
          params: { path: { scene_id: scene } },
          body: { name, document: setup, replace: there !== undefined },
        }),
      ),
    onSuccess: async (row) => {
      kept(row.name);
      await cache.invalidateQueries({ queryKey: ["setups", scene] });
      onClose();
    },
  });
  const remove = useMutation({
    mutationFn: () =>
      take(
        client.DELETE("/api/scenes/{scene_id}/setups/{setup_id}", {
          params: { path: { scene_id: scene, setup_id: there!.id } },
        }),
      ),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["setups", scene] });
      onClose();
    },
  });
  const problem = save.error ?? remove.error;
  return (
    <Ask title={t.saveTheSetUp} open onClose={onClose}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <TextField label={t.name} value={name} onChange={setName} autoFocus />
        {problem && <ProblemNote problem={asProblem(problem)} />}
        <div className="flex justify-end gap-2">
          {there && (
            <Button className="mr-auto" onClick={() => remove.mutate()}>
              {t.removeIt}
            </Button>
          )}
          <Button onClick={onClose}>{t.cancel}</Button>
          <Button kind="main" type="submit" disabled={name.trim() === "" || save.isPending}>
            {there ? t.saveOverIt : t.save}
          </Button>
        </div>
      </form>
    </Ask>
  );
}

function RenderForm({ project, scene, setup }: Omit<Props, "facts" | "frame">) {
  const cache = useQueryClient();
  const [typed, setTyped] = useState<string | null>(null);
  const name = typed ?? scene.name;
  const order = useMutation({
    mutationFn: () =>
      take<RenderOut>(
        client.POST("/api/scenes/{scene_id}/renders", {
          params: { path: { scene_id: scene.id } },
          body: { name, document: setup },
        }),
      ),
    onSettled: () => cache.invalidateQueries({ queryKey: ["jobs", project] }),
  });
  const count = setup.last - setup.first + 1;
  const sheets = setup.flattened ? 1 : Math.max(1, setup.layers.filter((x) => x.render).length);
  return (
    <form
      className="space-y-2 border-t border-line bg-card p-3"
      onSubmit={(event) => {
        event.preventDefault();
        order.mutate();
      }}
    >
      {order.error && <ProblemNote problem={asProblem(order.error)} />}
      <div className="flex items-end gap-2">
        <div className="min-w-0 flex-1">
          <TextField label={t.nameOfTheRender} value={name} onChange={setTyped} />
        </div>
        <Button kind="main" type="submit" disabled={order.isPending || name.trim() === ""} className="h-8">
          {order.isPending ? t.ordering : t.render}
        </Button>
      </div>
      <p className="num text-soft">
        {counted(count, "frame")}, {counted(setup.passes.length, "pass", "passes")}
        {sheets > 1 ? t.layers(sheets) : ""}
        {setup.use === "draft" ? t.draft : ""}
      </p>
    </form>
  );
}
