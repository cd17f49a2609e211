/** What a project keeps under names. */
import { client, take, type Sent } from "./client";

export type KeptOut = Sent<"KeptOut">;

export const keptCalls = {
  keep: (project: number, kind: KeptOut["kind"], name: string, content: unknown) =>
    take<KeptOut>(
      client.POST("/api/projects/{project_id}/kept", {
        params: { path: { project_id: project } },
        body: { kind, name, content: content as Record<string, never> },
      }),
    ),
  forget: (id: number) => take(client.DELETE("/api/kept/{kept_id}", { params: { path: { kept_id: id } } })),
};
