/** What a project keeps under names. */
import { client, take, type Sent } from "./client";

export type PresetOut = Sent<"PresetOut">;

export const presetCalls = {
  keep: (project: number, kind: PresetOut["kind"], name: string, content: unknown) =>
    take<PresetOut>(
      client.POST("/api/projects/{project_id}/presets", {
        params: { path: { project_id: project } },
        body: { kind, name, content: content as Record<string, never> },
      }),
    ),
  forget: (id: number) =>
    take(client.DELETE("/api/presets/{preset_id}", { params: { path: { preset_id: id } } })),
};
