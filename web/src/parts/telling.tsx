/** The browser tells of deliveries that have ended while another window is looked at, where a person wants it. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { create } from "zustand";
import { queries } from "../api/queries";
import { remember, remembered } from "../domain/remember";
import { Tick } from "../ui/Tick";
import { text } from "./strings";

const t = text.telling;
const KEPT = "tell";

const useTelling = create<{ on: boolean; refused: boolean }>(() => ({
  on: remembered(KEPT) === "yes",
  refused: false,
}));

interface Ended {
  id: number;
  title: string;
  how: string;
}

interface Row {
  id: number;
  comp_name: string;
  good: boolean | null;
  job: { state: string };
}

const OVER = new Set(["done", "failed", "cancelled"]);

/** What has come to its end since it was last looked at; ``before``: the states then, by number. */
export function endedSince(before: ReadonlyMap<number, string>, rows: readonly Row[]): Ended[] {
  return rows
    .filter((r) => before.has(r.id) && !OVER.has(before.get(r.id)!) && OVER.has(r.job.state))
    .filter((r) => r.job.state !== "cancelled")
    .map((r) => ({
      id: r.id,
      title: r.comp_name,
      how: r.job.state === "failed" ? t.failed : r.good ? t.proved : t.notProved,
    }));
}

/** In the frame around every desk, so that it tells wherever one is. */
export function useToldOfDeliveries(project: number): void {
  const on = useTelling((s) => s.on);
  const rows = useQuery({ ...queries.deliveries(project), enabled: on && project > 0 }).data;
  const before = useRef<ReadonlyMap<number, string>>(new Map());
  useEffect(() => {
    if (!on || !rows) return;
    const ended = endedSince(before.current, rows);
    before.current = new Map(rows.map((r) => [r.id, r.job.state]));
    if (!document.hidden || !("Notification" in window) || Notification.permission !== "granted") return;
    for (const { id, title, how } of ended) new Notification(title, { body: how, tag: `delivery ${id}` });
  }, [on, rows]);
}

export function TellMe() {
  const { on, refused } = useTelling();
  const set = (wanted: boolean) => {
    const keep = (told: boolean) => {
      remember(KEPT, told ? "yes" : "no");
      useTelling.setState({ on: told, refused: wanted && !told });
    };
    if (!wanted) keep(false);
    else if (!("Notification" in window)) keep(false);
    else void Notification.requestPermission().then((answer) => keep(answer === "granted"));
  };
  return (
    <div className="text-soft">
      <Tick label={t.tellMe} help={t.tellMeHelp} checked={on} onChange={set} />
      {refused && <p role="note">{t.theBrowserRefuses}</p>}
    </div>
  );
}
