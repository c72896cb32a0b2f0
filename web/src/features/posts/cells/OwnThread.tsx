import { chakra, Flex, Menu, Portal } from "@chakra-ui/react";
import { useState } from "react";
import { Scissors } from "@/ui/Marks";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { toast } from "@/ui/toasts";
import { type BenchColumn, type Overrides, withMaster, withOverrides } from "../draft";
import { columnName, usePlace } from "../place";
import { Compare } from "./Compare";

type Part = "text" | "link" | "first_comment" | "media" | "card" | "link_tags";
type Props = { label: string; parts: Part[]; column: BenchColumn; compares?: boolean };

const Small = chakra("button", {
  base: {
    fontSize: "11px",
    lineHeight: "14px",
    minH: "24px",
    minW: "24px",
    px: "4px",
    color: "anil",
    cursor: "pointer",
  },
});

/** The thread that cuts a field of its own back to the master; and what else can be done with it. */
export function OwnThread({ label, parts, column, compares }: Props) {
  const { change, columns, networks, now } = usePlace();
  const [comparing, setComparing] = useState(false);
  const others = columns.filter((c) => c.key !== column.key);
  const words = `Put ${label} back to the master`;

  function pushTo(targets: BenchColumn[] | "master") {
    const before = now();
    const own = before.overrides[column.key] ?? {};
    const values = Object.fromEntries(parts.map((part) => [part, own[part] ?? null])) as Partial<Overrides>;
    change((d) => {
      if (targets === "master")
        return withMaster(d, Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null)));
      return targets.reduce((draft, target) => withOverrides(draft, target.key, values), d);
    });
    const where = targets === "master" ? "the master" : targets.map((t) => columnName(t, networks)).join(", ");
    toast(`Pushed to ${where}.`, { undo: async () => change(() => before) });
  }

  return (
    <Flex float={compares ? undefined : "right"} align="center">
      <Small
        type="button"
        whiteSpace="nowrap"
        aria-label={`own: ${words}`}
        title={words}
        textDecoration="underline dashed"
        textUnderlineOffset="3px"
        onClick={() =>
          change((d) => withOverrides(d, column.key, Object.fromEntries(parts.map((part) => [part, null]))))
        }
      >
        own <Scissors />
      </Small>
      <Menu.Root lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
        <Menu.Trigger asChild>
          <Small type="button" aria-label={`More for ${label}`} title="Push to others, compare">
            ⋯
          </Small>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              {compares && (
                <MenuRow value="compare" onSelect={() => setComparing(true)}>
                  Compare with the master
                </MenuRow>
              )}
              <MenuRow value="master" onSelect={() => pushTo("master")}>
                Push to the master
              </MenuRow>
              {others.length > 1 && (
                <MenuRow value="all" onSelect={() => pushTo(others)}>
                  Push to all other columns
                </MenuRow>
              )}
              {others.map((other) => (
                <MenuRow key={other.key} value={other.key} onSelect={() => pushTo([other])}>
                  Push to {columnName(other, networks)}
                </MenuRow>
              ))}
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {comparing && (
        <Compare label={label} part={parts[0] as "text"} column={column} close={() => setComparing(false)} />
      )}
    </Flex>
  );
}
