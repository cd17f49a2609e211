/** A project's own configurations of colour. */
import { client, take, type Sent } from "./client";
import { sendBytes } from "./importFiles";

export type ConfigurationOut = Sent<"ConfigurationOut">;

const of = (project: number, key: string) => ({ params: { path: { project_id: project, key } } });

export const colourCalls = {
  bring: (project: number, file: File, signal: AbortSignal) => {
    const query = new URLSearchParams({ name: file.name });
    const address = `/api/projects/${project}/colour?${query}`;
    return sendBytes(address, file, signal, file.name, () => undefined);
  },
  reads: (project: number, key: string, reads: boolean) =>
    take<ConfigurationOut>(
      client.PATCH("/api/projects/{project_id}/colour/{key}", { ...of(project, key), body: { reads } }),
    ),
  takeOut: (project: number, key: string) =>
    take(client.DELETE("/api/projects/{project_id}/colour/{key}", of(project, key))),
};
