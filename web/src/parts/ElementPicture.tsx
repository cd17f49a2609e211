/** An element at a glance: its picture and its alpha at once, parted by a slanted cut. */
import type { ElementOut } from "../api/client";
import { isComp } from "../domain/compSource";
import { stampOf } from "../domain/stampOf";
import { restingFrame } from "../domain/time";
import { text } from "./strings";

const t = text.ElementPicture;

export function ElementPicture({ element, className = "" }: { element: ElementOut; className?: string }) {
  if (element.state !== "ready" || element.replaced) {
    return (
      <div className={`grid place-items-center bg-well text-soft ${className}`}>
        {element.state === "arriving" ? t.looking : element.replaced ? t.replaced : t.refused}
      </div>
    );
  }
  const version = encodeURIComponent(stampOf(element));
  const frame = element.facts ? `&frame=${restingFrame(element.facts)}` : "";
  const of = `/api/${isComp(element) ? "comps" : "elements"}/${element.id}`;
  const address = (part: string) => `${of}/card?part=${part}${frame}&v=${version}`;
  const alpha = element.has_alpha;
  return (
    <div className={`relative overflow-hidden bg-surround ${className}`}>
      <img
        src={address("colour")}
        alt=""
        loading="lazy"
        fetchPriority="low"
        draggable={false}
        className="absolute inset-0 h-full w-full object-cover"
      />
      {alpha && (
        <img
          src={address("alpha")}
          alt=""
          draggable={false}
          className="absolute inset-0 h-full w-full object-cover"
          style={{ clipPath: "polygon(62% 0, 100% 0, 100% 100%, 46% 100%)" }}
        />
      )}
    </div>
  );
}
