/** Orders of deliveries: given, looked at before, and kept as presets. */
import { client, take, takePicture, type DeliveryOut, type Sent } from "./client";
import type { components } from "./schema";

export type OrderIn = components["schemas"]["OrderIn"];
export type Take = Sent<"Take">;
export type OrderCheckOut = Sent<"OrderCheckOut">;
export type Advice = OrderCheckOut["advice"][number];
export type DeliveryFolder = Sent<"DeliveryFolderOut">;
export type DeliveryPreset = Sent<"DeliveryPresetOut">;
export type Shown = "checks" | "ignored" | "bands" | "dithered";

const of = (project: number) => ({ params: { path: { project_id: project } } });

export const orderCalls = {
  verify: (delivery: number) =>
    take<Sent<"ListCheck">>(
      client.POST("/api/deliveries/{delivery_id}/verify", { params: { path: { delivery_id: delivery } } }),
    ),
  give: (project: number, body: OrderIn) =>
    take<DeliveryOut[]>(client.POST("/api/projects/{project_id}/deliveries", { ...of(project), body })),
  check: (project: number, body: OrderIn, look: boolean, signal: AbortSignal) =>
    take<OrderCheckOut>(
      client.POST("/api/projects/{project_id}/deliveries/check", {
        params: { path: { project_id: project }, query: { look } },
        body,
        signal,
      }),
    ),
  /** A small picture of what is written, as an address of the page's own. */
  picture: (project: number, body: OrderIn, shown: Shown, signal: AbortSignal) =>
    takePicture(`/api/projects/${project}/deliveries/picture?shown=${shown}`, body, signal),
  keep: (project: number, body: components["schemas"]["DeliveryPresetIn"]) =>
    take<DeliveryPreset>(
      client.POST("/api/projects/{project_id}/delivery-presets", { ...of(project), body }),
    ),
  forget: (preset: number) =>
    take(client.DELETE("/api/delivery-presets/{preset_id}", { params: { path: { preset_id: preset } } })),
};
