/** Scenes and renders: their types, and bringing a scene's files in. */
import { client, csrfToken, problemOf, take, type Sent } from "./client";
import type { components } from "./schema";

export type SceneOut = Sent<"SceneOut">;
export type PassOut = Sent<"PassOut">;
export type SetUpOut = Sent<"SetUpOut">;
export type RenderOut = Sent<"RenderOut">;
export type RenderSetup = Sent<"RenderSetup">;
export type SceneFacts = Sent<"SceneFacts">;
export type SceneAsk = components["schemas"]["DraftShown"];

/** Whether a file is a scene, and not a picture. */
export const isScene = (name: string) => /\.(glb|gltf)$/i.test(name);

/** Sends the files of one scene: a .glb, or a .gltf with its buffers and pictures. */
export async function bringScene(
  project: number,
  files: File[],
  signal: AbortSignal,
  onFile: (done: number) => void,
): Promise<SceneOut> {
  const scene = await take<SceneOut>(
    client.POST("/api/projects/{project_id}/scenes", {
      params: { path: { project_id: project } },
      signal,
    }),
  );
  for (const [done, file] of files.entries()) {
    onFile(done);
    // folders inside the scene's own are kept: the .gltf names its pictures by them
    const inside = file.webkitRelativePath.split("/").slice(1).join("/") || file.name;
    const response = await fetch(`/api/scenes/${scene.id}/files?name=${encodeURIComponent(inside)}`, {
      method: "PUT",
      signal,
      credentials: "same-origin",
      headers: { "Content-Type": "application/octet-stream", "X-CSRFToken": csrfToken() },
      body: file,
    });
    if (!response.ok) throw problemOf(response.status, await response.json().catch(() => null));
  }
  return take<SceneOut>(
    client.POST("/api/scenes/{scene_id}/finish", { params: { path: { scene_id: scene.id } }, signal }),
  );
}
