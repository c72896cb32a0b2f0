import { chakra, Flex, Menu, Portal } from "@chakra-ui/react";
import { useHere } from "@/app/shell/BrandShell";
import { useSets } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { MenuList } from "@/ui/MenuParts";

const Row = chakra(Menu.CheckboxItem, {
  base: {
    display: "flex",
    gap: "10px",
    px: "12px",
    py: "8px",
    cursor: "pointer",
    "&[data-highlighted]": { bg: "wash" },
  },
});

/** The calendar narrowed to profile sets: kept in the address, always in sight while it is on, cleared at one press. */
export function SetFilter({ sets, choose }: { sets: string | undefined; choose: (sets: string | undefined) => void }) {
  const { brand } = useHere();
  const all = useSets(brand.slug).data ?? [];
  const on = (sets ?? "").split(",").filter(Boolean);
  const names = all.filter((set) => on.includes(String(set.id))).map((set) => set.name);
  if (all.length === 0 && on.length === 0) return null;
  const toggle = (id: string, now: boolean) => {
    const next = now ? [...on, id] : on.filter((other) => other !== id);
    choose(next.length ? next.join(",") : undefined);
  };
  return (
    <Flex
      align="center"
      borderWidth={on.length ? "2px" : "1px"}
      borderColor={on.length ? "ink" : "rule"}
      borderRadius="3px"
      bg="card"
    >
      <Menu.Root closeOnSelect={false} positioning={{ placement: "bottom-end" }}>
        <Menu.Trigger asChild>
          <Button kind="quiet" color={on.length ? "ink" : undefined}>
            {on.length ? (
              <>
                {names.length > 1 ? "Sets: " : "Set: "}
                <b>{names.join(", ") || "unknown"}</b>
              </>
            ) : (
              "Sets"
            )}
          </Button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              {all.map((set) => (
                <Row
                  key={set.id}
                  value={String(set.id)}
                  checked={on.includes(String(set.id))}
                  onCheckedChange={(now) => toggle(String(set.id), now)}
                >
                  <chakra.span w="14px" aria-hidden>
                    {on.includes(String(set.id)) ? "✓" : ""}
                  </chakra.span>
                  {set.name}
                </Row>
              ))}
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {on.length > 0 && (
        <Button kind="quiet" aria-label="Clear the filter" onClick={() => choose(undefined)}>
          ✕
        </Button>
      )}
    </Flex>
  );
}
