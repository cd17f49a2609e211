/** Looking at a matte alone: white keeps, black removes. */
import type { Look } from "../../../api/pictures";
import { useDesk, type DeskState } from "../deskState";

/** Shows a matte over its layer alone, or the comp again. */
export function showMatte(matte: DeskState["matteShown"], channel: Look["channel"]): void {
  const { look } = useDesk.getState();
  useDesk.setState({
    matteShown: matte,
    look: { ...look, channel },
    ...(matte ? { layer: matte.owner.layer, instrument: "matte" } : {}),
  });
}
