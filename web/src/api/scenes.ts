/** Scenes and renders: their types, and bringing a scene's files in. */
import { sendBytes, type Dropped } from "./importFiles";
import { client, take, type Sent } from "./client";
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
export async function importScene(
  project: number,
  files: Dropped[],
  signal: AbortSignal,
  onProgress: (files: number, bytes: number) => void,
): Promise<SceneOut> {
  const scene = await take<SceneOut>(
    client.POST("/api/projects/{project_id}/scenes", {
      params: { path: { project_id: project } },
      signal,
    }),
  );
  let before = 0;
  for (const [done, { file, name }] of files.entries()) {
    // folders inside the scene's own are kept: the .gltf names its pictures by them
    const inside = name.split("/").slice(1).join("/") || file.name;
    const address = `/api/scenes/${scene.id}/files?name=${encodeURIComponent(inside)}`;
    await sendBytes(address, file, signal, name, (bytes) => onProgress(done, before + bytes));
    before += file.size;
  }
  return take<SceneOut>(
    client.POST("/api/scenes/{scene_id}/finish", { params: { path: { scene_id: scene.id } }, signal }),
  );
}
