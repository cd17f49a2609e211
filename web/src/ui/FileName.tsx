/** A file's name that breaks where its parts meet, and anywhere only when it must. */
import { Fragment } from "react";

export function FileName({ name }: { name: string }) {
  return name.split(/(?<=[._\- ])/).map((part, index) => (
    <Fragment key={index}>
      {index > 0 && <wbr />}
      {part}
    </Fragment>
  ));
}
