import { memo, useCallback, useMemo } from "react";
import type { Column } from "@/api/client";
import { OwnThread } from "./cells/OwnThread";
import { TextCell, type TextPart } from "./cells/TextCell";
import { type BenchColumn, withOverrides } from "./draft";
import { columnName, usePlace } from "./place";

const CALLED: Record<TextPart, string> = { text: "Text", first_comment: "First comment" };

type MasterProps = { part: TextPart; value: string; change: (text: string) => void; error?: string };

/** The master's text, or its first comment. */
export const MasterText = memo(function MasterText({ part, value, change, error }: MasterProps) {
  return (
    <TextCell
      label={`${CALLED[part]} of the master`}
      value={value}
      change={change}
      error={error}
      low={part === "first_comment"}
      autoFocus={part === "text" && !value}
      placeholder={part === "text" ? "What do you want to say?" : "None. Hashtags often live here."}
    />
  );
});

type VersionProps = {
  part: TextPart;
  column: BenchColumn;
  own: string | null | undefined;
  master: string;
  check: Column | undefined;
};

/** A column's text, or its first comment: inherited until it is touched. */
export const VersionText = memo(function VersionText({ part, column, own, master, check }: VersionProps) {
  const { change, networks } = usePlace();
  const label = `${CALLED[part]} for ${columnName(column, networks)}`;
  const set = useCallback(
    (text: string) => change((d) => withOverrides(d, column.key, { [part]: text })),
    [change, column.key, part],
  );
  const length = part === "text" ? check?.length : check?.comment_length;
  const isOwn = own != null;
  const thread = useMemo(
    () => isOwn && <OwnThread label={label} parts={[part]} column={column} compares />,
    [isOwn, label, part, column],
  );
  return (
    <TextCell
      label={label}
      value={own ?? master}
      inherited={own == null}
      change={set}
      column={column}
      length={part === "first_comment" && !(own ?? master) ? undefined : length}
      limit={check?.limit}
      low={part === "first_comment"}
      placeholder="Inherits the master"
      thread={thread}
    />
  );
});
