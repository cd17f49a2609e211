/** A project's own font files. */
import { client, take, type Sent } from "./client";
import { sendBytes } from "./importFiles";

export type FontFileOut = Sent<"FontFileOut">;

export const fontCalls = {
  bring: async (project: number, file: File, signal: AbortSignal) => {
    const query = new URLSearchParams({ name: file.name });
    const address = `/api/projects/${project}/fonts?${query}`;
    return (await sendBytes(address, file, signal, file.name, () => undefined)) as FontFileOut;
  },
  takeOut: (project: number, key: string) =>
    take(
      client.DELETE("/api/projects/{project_id}/fonts/{key}", {
        params: { path: { project_id: project, key } },
      }),
    ),
  /** Give the project font files of another one. */
  bringOver: (project: number, from: number, fonts: string[]) =>
    take(
      client.POST("/api/projects/{project_id}/fonts/bring-over", {
        params: { path: { project_id: project } },
        body: { project: from, fonts },
      }),
    ),
};
