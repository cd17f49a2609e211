/** Choose what to render and how; watch the passes arrive. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { asProblem } from "../../api/client";
import { queries } from "../../api/queries";
import type { SceneFacts, SceneOut } from "../../api/scenes";
import { Shell } from "../../parts/Shell";
import { useUndoKeys } from "../../parts/useUndoKeys";
import { clampFrame } from "../../domain/time";
import { counted } from "../../domain/words";
import { Empty, ProblemNote, Waiting } from "../../ui/basics";
import { PassRow } from "./PassRow";
import { Renders } from "./Renders";
import { BringScene, SceneList } from "./SceneList";
import { ScenePicture } from "./ScenePicture";
import { SetupPanel } from "./SetupPanel";
import { firstSetup, useSetup } from "./setupStore";
import { text } from "./strings";

const t = text.SceneDesk;

export function SceneDesk() {
  const params = useParams();
  const project = Number(params["project"]);
  const scenes = useQuery(queries.scenes(project));
  const navigate = useNavigate();
  const rows = scenes.data ?? [];
  const chosen = rows.find((s) => s.id === Number(params["scene"])) ?? rows[0];
  return (
    <Shell>
      {scenes.isPending && <Waiting what={t.lookingForTheScenes} />}
      {scenes.error && (
        <div className="p-4">
          <ProblemNote problem={asProblem(scenes.error)} />
        </div>
      )}
      {scenes.data && rows.length === 0 && (
        <Empty title={t.noScenesYet} action={<BringScene project={project} main />}>
          {t.dropAGlbAnywhereOn}
        </Empty>
      )}
      {chosen && (
        <div className="grid h-full grid-cols-[13rem_minmax(0,1fr)]">
          <div className="flex min-h-0 flex-col border-r border-line">
            <div className="flex items-center justify-between border-b border-line px-3 py-2">
              <h1 className="font-semibold">{counted(rows.length, "scene")}</h1>
              <BringScene project={project} />
            </div>
            <SceneList
              rows={rows}
              chosen={chosen.id}
              onChoose={(id) => void navigate(`/projects/${project}/scene/${id}`)}
            />
          </div>
          <div className="flex min-h-0 min-w-0 flex-col">
            {chosen.facts ? (
              <Open key={chosen.id} project={project} scene={chosen} facts={chosen.facts} />
            ) : (
              <div className="min-h-0 flex-1 overflow-auto p-4">
                {chosen.problem ? (
                  <ProblemNote problem={chosen.problem} />
                ) : (
                  <Waiting what={t.readingTheScene} />
                )}
              </div>
            )}
            <Renders project={project} />
          </div>
        </div>
      )}
    </Shell>
  );
}

function Open({ project, scene, facts }: { project: number; scene: SceneOut; facts: SceneFacts }) {
  const working = useSetup((s) => (s.working?.scene === scene.id ? s.working : null));
  const setups = useQuery(queries.setups(scene.id));
  const [params, setParams] = useSearchParams();

  useEffect(() => {
    const { open, recall } = useSetup.getState();
    if (!setups.data || recall(scene.id)) return;
    const first = setups.data[0];
    open(scene.id, first?.name ?? "", first?.document ?? firstSetup(facts.seconds));
  }, [setups.data, scene.id, facts.seconds]);

  useUndoKeys(useSetup.getState());
  if (!working)
    return setups.error ? <ProblemNote problem={asProblem(setups.error)} /> : <Waiting what={t.opening} />;
  const setup = working.document;
  const frame = clampFrame(Number(params.get("frame") ?? setup.first), setup.first, setup.last);
  const name = params.get("pass") ?? (setup.passes.includes("beauty") ? "beauty" : setup.passes[0]!);
  const put = (change: Record<string, string>) =>
    setParams((old) => ({ ...Object.fromEntries(old), ...change }), { replace: true });
  if (facts.cameras.length === 0) {
    return (
      <div className="min-h-0 flex-1 p-4">
        <ProblemNote
          problem={{
            code: "scene-refused",
            message: t.hasNoCamera(scene.name),
            advice: t.putOneIntoTheScene,
            where: scene.name,
          }}
        />
      </div>
    );
  }
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="min-h-0 flex-1">
          <ScenePicture
            scene={scene}
            setup={setup}
            frame={frame}
            name={name}
            onFrame={(to) => put({ frame: String(to) })}
          />
        </div>
        <PassRow
          scene={scene.id}
          setup={setup}
          frame={frame}
          chosen={name}
          onChoose={(pass) => put({ pass })}
          onTick={(passes) => useSetup.getState().commit({ passes })}
        />
      </div>
      <SetupPanel {...{ project, scene, facts, setup, frame }} />
    </div>
  );
}
