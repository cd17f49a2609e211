/** The list of keys, shown under `?`. */
import { Keyboard } from "lucide-react";
import { useEffect, useState } from "react";
import { Ask } from "../../ui/Ask";
import { SignButton } from "../../ui/basics";
import { KEYS } from "./useKeys";

export function KeysHelp() {
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === "?" && setHelp(true);
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <>
      <SignButton name="Keys (?)" onClick={() => setHelp(true)} className="!min-h-5">
        <Keyboard className="size-4" />
      </SignButton>
      <Ask title="Keys" open={help} onClose={() => setHelp(false)}>
        <table>
          <tbody>
            {KEYS.map(([key, does]) => (
              <tr key={key}>
                <th scope="row" className="num py-0.5 pr-6 text-left font-medium">
                  {key}
                </th>
                <td>{does}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-3 text-soft">
          In the picture: the wheel zooms, dragging pans, a double click fits. In numbers: ↑ ↓ nudge, with
          Shift ten times as far, with Alt a tenth; a double click on the name goes back to its rest.
        </p>
      </Ask>
    </>
  );
}
