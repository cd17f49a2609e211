/** The recipe's section of a group: where its alpha comes from, what that means, and ungrouping. */
import { useQuery } from "@tanstack/react-query";
import { compCalls } from "../../api/comps";
import {
  changeLayer,
  alternativesOf,
  groupActs,
  showAlternative,
  ungroup,
  type CompDocument,
  type Group,
  type Layer,
} from "../../domain/comp";
import { holdersOf } from "../../domain/tree";
import { trimmed } from "../../domain/words";
import { Button } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Segments } from "../../ui/Segments";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { MatteEditor } from "./mattes/MatteEditor";
import { text } from "./strings";

const t = text.GroupSection;

interface Props {
  store: DocumentStore;
  group: Group;
}

const MEMBERS = "members";
const MATTE = "matte";

/** Where a group's alpha comes from, in a few words. */
export function alphaInWords(group: Group): string {
  if (group.alpha.by === "members") return t.ofAllMembers;
  if (group.alpha.by === "matte") return t.ofAMatte;
  const member = group.layers.find((l) => l.id === group.alpha.member);
  return member ? t.alphaOf(member.name) : t.ofAMemberThatIsGone;
}

export function GroupSection({ store, group, comp }: Props & { comp: number }) {
  const { commit } = store.getState();
  const gone = group.alpha.by === "member" && !group.layers.some((l) => l.id === group.alpha.member);
  const value = group.alpha.by === "member" ? group.alpha.member : group.alpha.by;
  const options = [
    { value: MEMBERS, label: t.allMembersAsMerged },
    ...group.layers.map((l) => ({ value: l.id, label: l.name, group: t.oneMember })),
    { value: MATTE, label: t.aMatte },
    ...(gone ? [{ value, label: t.ofAMemberThatIsGone }] : []),
  ];
  const choose = (next: string) => {
    const { matte } = group.alpha;
    const alpha =
      next === MEMBERS
        ? { by: "members" as const, member: "", matte }
        : next === MATTE
          ? { by: "matte" as const, member: "", matte }
          : { by: "member" as const, member: next, matte };
    commit((d) => changeLayer(d, group.id, { alpha }), t.alphaOf(group.name));
  };
  return (
    <div className="space-y-1.5">
      <Alternatives store={store} group={group} comp={comp} />
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.alphaFrom}</span>
        <Choose live name={t.alphaFrom} value={value} options={options} onChange={choose} />
      </div>
      <p className="text-soft">{group.alpha.by === "members" ? merged(group) : t.colourIsStackedInside}</p>
      {group.alpha.by === "matte" && (
        <MatteEditor store={store} layer={group} step="alpha" called={t.alphaOf(group.name)} />
      )}
      <Ungroup store={store} group={group} />
    </div>
  );
}

/** One of the ways to the same picture, and how far the two lie apart at this frame. */
function Alternatives({ store, group, comp }: Props & { comp: number }) {
  const [one, other] = alternativesOf(group);
  const frame = useDesk((d) => d.frame);
  const revision = store((s) => s.comp.revision);
  const got = useQuery({
    queryKey: ["alternatives", comp, revision, frame, group.id],
    queryFn: ({ signal }) =>
      compCalls.alternatives(comp, { frame, layer: group.id, one: one!.id, other: other!.id }, signal),
    enabled: other !== undefined,
    placeholderData: (before) => before,
    retry: false,
  });
  if (!one || !other) return null;
  const choices = alternativesOf(group).map((l) => ({ value: l.id, label: l.name }));
  const shown = alternativesOf(group).find((l) => l.shown);
  return (
    <>
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.drawnFrom}</span>
        <Segments
          name={t.drawnFrom}
          small
          value={shown?.id ?? ""}
          choices={choices}
          onChange={(id) =>
            store
              .getState()
              .commit((d) => showAlternative(d, group, id), t.drawnFromWhat(group.name, nameIn(group, id)))
          }
        />
      </div>
      <p className="text-soft">
        {got.data ? t.theyDiffer(small(got.data.most), small(got.data.mean)) : t.comparingThem}
      </p>
    </>
  );
}

const nameIn = (group: Group, id: string) => group.layers.find((l) => l.id === id)?.name ?? id;

/** A difference with two digits that count, and none where it is next to nothing. */
const small = (value: number) =>
  value === 0 ? "0" : value < 1e-4 ? t.lessThan("0.0001") : value.toPrecision(2);

/** What merging one after another costs where members overlap with the same alpha. */
function merged(group: Group): string {
  const count = group.layers.filter((l) => l.shown).length;
  return count > 1 ? t.alphaCompounds(count, trimmed(1 - 0.5 ** count, 3)) : t.membersAreMergedFirst;
}

function Ungroup({ store, group }: Props) {
  return (
    <div className="flex items-center gap-2">
      <Button
        onClick={() => {
          store.getState().commit((d) => ungroup(d, group.id), t.ungroup2(group.name));
          useDesk.setState({ layer: group.layers.at(-1)?.id ?? null, also: [] });
        }}
      >
        {t.ungroup}
      </Button>
      {groupActs(group) && <span className="text-soft">{t.itsOwnWorkGoes}</span>}
    </div>
  );
}

/** The groups that hold a layer, the outermost first; a press chooses one. */
export function HeldBy({ document, layer }: { document: CompDocument; layer: Layer }) {
  const holders = holdersOf<Layer>(document.layers, layer.id).reverse();
  if (holders.length === 0) return null;
  return (
    <p className="flex flex-wrap items-center gap-1 px-1.5 text-soft">
      {t.inWord}
      {holders.map((group) => (
        <button
          key={group.id}
          type="button"
          className="max-w-full truncate rounded px-1 underline hover:text-accent"
          onClick={() => useDesk.setState({ layer: group.id, also: [] })}
        >
          {group.name}
        </button>
      ))}
    </p>
  );
}
