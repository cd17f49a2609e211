/** A key: the screen's colour from a piece of it, its evenness, black and white point, core and garbage matte. */
import { Pipette } from "lucide-react";
import { cardOf, newShape, addPart, withMatte } from "../../../../domain/mattes";
import { changeSteps } from "../../../../domain/comp";
import { codeOfLight } from "../../../../domain/light";
import { hexOf } from "../../../../domain/words";
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../../../api/queries";
import { Button } from "../../../../ui/basics";
import { Segments } from "../../../../ui/Segments";
import { useDesk } from "../../deskState";
import { newStep } from "../../steps/table";
import { Line, PartNumber, ReadLine, SourceChoice, type FieldsProps } from "./fields";
import { text } from "../../strings";

const t = text.KeyFields;

export function KeyFields(props: FieldsProps<"key">) {
  const { store, layer, owner, part, index, called, sources, set } = props;
  const tool = useDesk((d) => d.tool);
  const tables = useQuery(queries.tables());
  const picking = tool?.kind === "screen" && tool.part === index && tool.owner.step === owner.step;
  const { commit } = store.getState();
  const card = cardOf(part.screen_colour);
  const spill = tables.data?.steps.find((s) => s.kind === "despill");
  const taken = layer.steps.some((s) => s.kind === "despill");
  const sure = (combine: "add" | "subtract") =>
    commit(
      (d) => withMatte(d, owner, (m) => addPart(m, newShape({ shape: "free", combine }))),
      t.matteFor(combine === "add" ? "core" : "garbage", called),
    );
  return (
    <>
      <Line name="by">
        <Segments
          name={t.keyBy}
          small
          value={part.by}
          choices={[
            { value: "screen", label: t.screenColour, tip: t.howMuchOfTheScreens },
            {
              value: "plate",
              label: t.cleanPlate,
              tip: t.howFarAPixelIs,
            },
          ]}
          onChange={(by) =>
            set(
              by === "plate" ? { by, black: 0.03, white: 0.15 } : { by, black: 0, white: 1 },
              t.kindOfTheKey,
            )
          }
        />
      </Line>
      {part.by === "screen" && (
        <>
          <Line name={t.screenColour2}>
            <span
              className="h-6 w-10 shrink-0 rounded border border-line"
              style={{ background: hexOf(codeOfLight(part.screen_colour)) }}
              title={part.screen_colour.map((v) => v.toFixed(3)).join(" ")}
            />
            <span className="min-w-0 flex-1 truncate">{card}</span>
            <Button
              aria-pressed={picking}
              className={`min-h-6 px-1.5 py-0 ${picking ? "border-accent bg-accent-soft text-accent" : ""}`}
              title={t.dragOverACleanArea}
              onClick={() =>
                useDesk.setState({ tool: picking ? null : { kind: "screen", owner, part: index } })
              }
            >
              <Pipette className="size-3.5" /> {picking ? t.dragOverIt : t.pickIt}
            </Button>
          </Line>
          <Line name={t.screenIs}>
            <Segments
              name={t.evennessOfTheScreen}
              small
              value={part.evenness}
              choices={[
                { value: "even", label: t.even },
                {
                  value: "uneven",
                  label: t.uneven,
                  tip: t.itsBrightnessIsMeasuredAround,
                },
                {
                  value: "plate",
                  label: t.asInAPlate,
                  tip: t.aPictureOfTheSame,
                },
              ]}
              onChange={(evenness) => set({ evenness }, t.evennessOfTheScreen2)}
            />
          </Line>
        </>
      )}
      {(part.by === "plate" || part.evenness === "plate") && (
        <Line name={t.cleanPlate2}>
          <SourceChoice
            name={t.cleanPlate}
            value={part.plate}
            sources={[{ value: "", label: t.chooseOne }, ...sources.filter((s) => s.value)]}
            onChange={(plate) => set({ plate }, t.cleanPlateOfTheKey)}
          />
        </Line>
      )}
      <PartNumber
        of={props}
        field="black"
        name={t.blackPoint}
        help={t.whatTheKeyKeepsLess}
        min={-10}
        max={10}
        step={0.005}
        slider={[0, 0.5]}
        rest={part.by === "plate" ? 0.03 : 0}
      />
      <PartNumber
        of={props}
        field="white"
        name={t.whitePoint}
        help={t.whatTheKeyKeepsMore}
        min={-10}
        max={10}
        step={0.005}
        slider={part.by === "plate" ? [0, 1] : [0.5, 1]}
        rest={part.by === "plate" ? 0.15 : 1}
      />
      {part.by === "screen" && (
        <PartNumber
          of={props}
          field="balance"
          name={t.balance}
          help={t.measuredAgainstTheGreaterOf}
          min={0}
          max={1}
          slider={[0, 1]}
          rest={0}
        />
      )}
      <ReadLine value={part.read} onChange={(read) => set({ read }, t.readingOfTheMatte)} />
      <div className="flex flex-wrap gap-1 pt-1">
        <Button className="min-h-6 px-1.5 py-0" onClick={() => sure("add")} title={t.aShapeThatIsKept}>
          {t.coreMatte}
        </Button>
        <Button
          className="min-h-6 px-1.5 py-0"
          onClick={() => sure("subtract")}
          title={t.aShapeThatIsRemoved}
        >
          {t.garbageMatte}
        </Button>
        {spill && part.by === "screen" && (
          <Button
            className="min-h-6 px-1.5 py-0"
            disabled={taken}
            title={taken ? t.theLayerHasADespill : t.addsAStepThatRemoves}
            onClick={() =>
              commit(
                (d) =>
                  changeSteps(d, layer.id, (steps) => [
                    ...steps,
                    { ...newStep(spill), screen: card } as never,
                  ]),
                t.despillOf(layer.name),
              )
            }
          >
            {t.addDespill}
          </Button>
        )}
      </div>
    </>
  );
}
